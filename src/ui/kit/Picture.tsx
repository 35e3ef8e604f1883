'use client';
import { useEffect, useRef, useState } from 'react';

/** An item's picture from the kept files, or a quiet place where there is none or it cannot be shown. */
export function Picture({ file, name, size }: { file: string | undefined; name: string; size: number }) {
  const [broken, setBroken] = useState<string>();
  const picture = useRef<HTMLImageElement>(null);
  // It may have failed before the page came alive.
  useEffect(() => {
    const { current } = picture;
    if (current?.complete && current.naturalWidth === 0) setBroken(file);
  }, [file]);
  if (!file || broken === file)
    return (
      <span
        className="picture none"
        style={{ width: size, height: size }}
        role="img"
        aria-label={file ? `the picture of ${name} cannot be shown` : `no picture of ${name}`}
      />
    );
  return (
    // biome-ignore lint/performance/noImgElement: pictures come small from our own route; nothing is left to optimise
    <img
      ref={picture}
      className="picture"
      src={`/pictures/${encodeURIComponent(file)}`}
      alt={name}
      width={size}
      height={size}
      loading="lazy"
      onError={() => setBroken(file)}
    />
  );
}
