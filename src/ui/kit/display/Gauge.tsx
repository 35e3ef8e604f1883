/** A length against its limit, with a second notch where a phone cuts. */
export function Gauge({ length, most, phone }: { length: number; most: number; phone?: number | undefined }) {
  const complete = Math.max(most * 1.15, length);
  const at = (count: number) => `${(count / complete) * 100}%`;
  return (
    <span className={length > most ? 'gauge over' : 'gauge'} role="img" aria-label={`${length} of ${most}`}>
      <i style={{ width: at(length) }} />
      {phone !== undefined && <b className="phone" style={{ left: at(phone) }} />}
      <b style={{ left: at(most) }} />
    </span>
  );
}
