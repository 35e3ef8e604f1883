/** The day by which waivers end and conditions say today, 2027-03-31, in UTC. */
export const today = (): string => new Date().toISOString().slice(0, 10);
