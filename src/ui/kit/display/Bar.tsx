interface Segment {
  readonly share: number;
  readonly kind: 'ready' | 'blocked' | 'primary';
}

/** A thin bar of segments, each with its own mark besides its colour; what is left over stays empty. */
export function Bar({
  segments,
  wide = false,
  label,
}: {
  segments: readonly Segment[];
  wide?: boolean;
  label?: string;
}) {
  let from = 0;
  return (
    <span
      className={wide ? 'bar wide' : 'bar'}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
    >
      {segments.map(({ share, kind }) => {
        const left = from;
        // A share too small to see is still shown: a problem must not vanish because the rest is large.
        const width = share > 0 ? Math.max(share * 100, 2.5) : 0;
        from += share * 100;
        return (
          <i
            key={kind}
            className={kind}
            style={{ left: `${Math.min(left, 100 - width)}%`, width: `${width}%` }}
          />
        );
      })}
    </span>
  );
}
