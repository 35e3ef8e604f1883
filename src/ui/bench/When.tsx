'use client';
import { useEffect, useState } from 'react';

/** A time as a person says it, in the reader's own zone. Rendered after loading: the server knows another zone. */
export function When({ at }: { at: Date }) {
  const [words, setWords] = useState('');
  useEffect(() => {
    const days = Math.round(
      (new Date().setHours(0, 0, 0, 0) - new Date(at).setHours(0, 0, 0, 0)) / 86_400_000,
    );
    const time = at.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
    setWords(
      days === 0 ? `today ${time}` : days === 1 ? `yesterday ${time}` : `${at.toLocaleDateString()} ${time}`,
    );
  }, [at]);
  return <time dateTime={at.toISOString()}>{words}</time>;
}
