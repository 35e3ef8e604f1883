'use client';
import { Button } from '@mantine/core';
import { useMemo, useState } from 'react';
import type { FieldRow, FieldsStage } from '@/server/stages/fields';
import { SampleContext } from '../composition/useSample';
import { useDraft } from '../draft/useDraft';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { useOpen, useShown } from '../kit/hooks/useOpen';
import { SearchField } from '../kit/inputs/inputs';
import { ThresholdSlider } from '../kit/inputs/TakeFrom';
import { Link } from '../kit/Link';
import { FieldLine } from './FieldLine';

type Show = 'all' | 'toFill' | 'failing' | 'changed';

const shown: Record<Show, (row: FieldRow) => boolean> = {
  all: () => true,
  toFill: (row) => row.toFill,
  failing: (row) => row.coverage.failing + row.coverage.missing > 0,
  changed: (row) => row.changed,
};
const showLabels: Record<Show, string> = {
  all: 'All',
  toFill: 'To map',
  failing: 'Failing',
  changed: 'Changed',
};

/** The Fields stage: every field of the channel, what fills it, how far, and its value on the sample. */
export function FieldsStagePage({ stage }: { stage: FieldsStage }) {
  const { path } = useAddress();
  const { open, toggle } = useOpen('field', true);
  const { shown: show, setShown } = useShown(['all', 'toFill', 'failing', 'changed']);
  const draft = useDraft();
  const [find, setFind] = useState('');
  const [from, setFrom] = useState(stage.takeAllFrom);
  const labels = useMemo(
    () => new Map(stage.attributes.map(({ code, label }) => [code, label])),
    [stage.attributes],
  );
  const labelOf = (code: string) => labels.get(code) ?? code;
  const rows = stage.rows.filter(
    (row) =>
      shown[show](row) && `${row.label} ${row.code} ${row.group}`.toLowerCase().includes(find.toLowerCase()),
  );
  const valuesHref = path.replace(/\/fields$/, '/values');
  const takeable = stage.rows.flatMap((row) => {
    const [best] = row.suggestions;
    return best && best.score >= from ? [[row.code, best.composition] as const] : [];
  });
  return (
    <SampleContext.Provider value={stage.sample}>
      <div className="bench-head">
        <FilterChips
          options={(Object.keys(shown) as Show[]).map(
            (key) => [key, `${showLabels[key]} ${stage.rows.filter(shown[key]).length}`] as const,
          )}
          current={show}
          onPick={setShown}
        />
        <SearchField name="Find a field" start={find} onFind={setFind} width={104} />
        <Link className="text" href={valuesHref}>
          Value mappings
          {stage.openWords > 0 && <span className="tone-blocker">: {stage.openWords} to do</span>}
        </Link>
        <ThresholdSlider
          values={[90, 80, 70, 60, 50, 40]}
          name="Minimum confidence of accepted suggestions"
          shown={false}
          value={from}
          onChange={setFrom}
          count={takeable.length}
          busy={draft.busy}
          onTake={() => void draft.save({ edit: 'fields', fields: Object.fromEntries(takeable) })}
        />
      </div>
      <div className="bench-body" aria-busy={draft.busy}>
        <div className="field-grid field-head">
          <span>Need</span>
          <span>Field</span>
          <span>Source</span>
          <span>Items filled</span>
          <span>Sample value</span>
        </div>
        {rows.length === 0 && (
          <Empty title={show === 'toFill' ? 'Every required field is mapped.' : 'No field matches.'}>
            <Button
              variant="default"
              onClick={() => {
                setFind('');
                setShown('all');
              }}
            >
              Show all fields
            </Button>
          </Empty>
        )}
        {rows.map((row) => (
          <FieldLine
            key={row.code}
            row={row}
            stage={stage}
            open={open === row.code}
            labelOf={labelOf}
            onToggle={() => toggle(row.code)}
          />
        ))}
      </div>
    </SampleContext.Provider>
  );
}
