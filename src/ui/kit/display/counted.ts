/** A count with its word, one or several: "1 item", "2 items", "3 categories". */
export const counted = (count: number, one: string, several = `${one}s`): string =>
  `${count.toLocaleString()} ${count === 1 ? one : several}`;
