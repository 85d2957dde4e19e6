/** The first letters of a name's first two words. */
export const initialsOf = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => word[0])
    .slice(0, 2)
    .join("")
    .toUpperCase();
