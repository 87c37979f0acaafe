/** “1 rule”, “2 rules”. */
export const counted = (number: number, what: string, several = `${what}s`) =>
  `${number.toLocaleString("en")} ${number === 1 ? what : several}`;
