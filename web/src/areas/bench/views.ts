// What the server answers of a band and a map, by name.
import type { Schemas } from "../../api/client";

export type Sweep = Schemas["SweepView"];
export type MapView = Schemas["MapView"];
/** The moments that a map is drawn for. */
export type Moment = "save" | "submit";
