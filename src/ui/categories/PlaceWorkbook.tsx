'use client';
import { Button, Popover } from '@mantine/core';
import { useState } from 'react';
import { counted } from '@/core/formatting/formatting';
import { CheckboxField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

interface PlaceWorkbookProps {
  feed: string;
  place: string;
  fields: readonly { readonly code: string; readonly label: string; readonly must: boolean }[];
}

/** What is listed in a place as a table to fill in: its must fields, or any that are chosen. */
export function PlaceWorkbook({ feed, place, fields }: PlaceWorkbookProps) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(fields.flatMap(({ code, must }) => (must ? [code] : []))),
  );
  const href = (format: string) =>
    `/api/feeds/${feed}/workbook?place=${encodeURIComponent(place)}&fields=${[...chosen].map(encodeURIComponent).join()}&format=${format}`;
  return (
    <Popover position="bottom-end" withinPortal trapFocus>
      <Popover.Target>
        <TextButton>as a workbook</TextButton>
      </Popover.Target>
      <Popover.Dropdown>
        <div className="place-workbook">
          <fieldset className="place-fields">
            <legend>
              <b>Columns of the workbook</b>
            </legend>
            {fields.map(({ code, label, must }) => (
              <CheckboxField
                key={code}
                name={must ? `${label}, must` : label}
                checked={chosen.has(code)}
                onChange={(on) => {
                  const next = new Set(chosen);
                  if (on) next.add(code);
                  else next.delete(code);
                  setChosen(next);
                }}
              />
            ))}
          </fieldset>
          <div className="row">
            <Button component="a" href={href('xlsx')} download disabled={chosen.size === 0}>
              Save {counted(chosen.size, 'column')}
            </Button>
            {chosen.size > 0 && (
              <a className="text small" href={href('csv')} download>
                as CSV
              </a>
            )}
          </div>
        </div>
      </Popover.Dropdown>
    </Popover>
  );
}
