/** The value of one of our colours, for drawings that cannot take it from a style. */
export const ink = (name: string): string =>
  typeof document === 'undefined'
    ? '#000'
    : getComputedStyle(document.documentElement).getPropertyValue(name).trim();
