import { writtenNumber } from "./written";

/** “1 rule”, “2 rules”. */
export const counted = (number: number, what: string, several = `${what}s`) =>
  `${writtenNumber(number)} ${number === 1 ? what : several}`;
