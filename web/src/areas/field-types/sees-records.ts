import { createContext } from "react";

/** Whoever sees no other records writes the number of the one that is meant. */
export const SeesRecords = createContext(true);
