'use client';
import { Tooltip } from '@mantine/core';
import type { Need } from '@/core/channels/sheet';
import { needWords } from '@/core/channels/versions';

/** Required, required here, recommended or optional. “Required here” tells its condition on hover and focus. */
export function NeedMark({
  need,
  here,
  because,
}: {
  need: Need;
  here: boolean;
  because?: string | undefined;
}) {
  if (need !== 'must' && here)
    return (
      <Tooltip
        label={because ?? 'required under a condition'}
        events={{ hover: true, focus: true, touch: true }}
      >
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: its condition must be readable by keyboard */}
        <span className="need here" tabIndex={0}>
          required here
        </span>
      </Tooltip>
    );
  return <span className={`need ${need}`}>{needWords[need]}</span>;
}
