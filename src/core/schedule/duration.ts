/** How long something takes, as a person says it: 42 s, 12 min, 3.5 h, 4 days. @param seconds zero or more */
export function durationText(seconds: number): string {
  const complete = (value: number) => value.toFixed(1).replace(/\.0$/, '');
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  if (seconds < 172_800) return `${complete(seconds / 3600)} h`;
  return `${complete(seconds / 86_400)} days`;
}
