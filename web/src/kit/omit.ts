/** The same without some of its fields. */
export function omit<T extends object, K extends keyof T>(given: T, ...fields: readonly K[]): Omit<T, K> {
  const without = new Set<PropertyKey>(fields);
  return Object.fromEntries(Object.entries(given).filter(([name]) => !without.has(name))) as Omit<T, K>;
}
