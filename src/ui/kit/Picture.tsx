/** An item's picture from the kept files, or a hatched place where there is none. */
export function Picture({ file, name, size }: { file: string | undefined; name: string; size: number }) {
  if (!file)
    return (
      <span
        className="picture none"
        style={{ width: size, height: size }}
        role="img"
        aria-label={`no picture of ${name}`}
      />
    );
  return (
    // biome-ignore lint/performance/noImgElement: pictures come small from our own route; nothing is left to optimise
    <img
      className="picture"
      src={`/pictures/${encodeURIComponent(file)}`}
      alt={name}
      width={size}
      height={size}
      loading="lazy"
    />
  );
}
