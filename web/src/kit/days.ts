const DAY = 24 * 60 * 60 * 1000;

/** The day in so many days, as fields of dates have it: 2027-01-31. */
export const dayIn = (days: number) => new Date(Date.now() + days * DAY).toISOString().slice(0, 10);
