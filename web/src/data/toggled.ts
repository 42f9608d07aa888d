/** A list with an item taken out, or put in where it was not. */
export const toggled = <T>(list: readonly T[], item: T): T[] =>
  list.includes(item) ? list.filter((each) => each !== item) : [...list, item]
