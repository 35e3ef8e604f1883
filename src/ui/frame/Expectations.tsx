'use client';
import { notifications } from '@mantine/notifications';
import { createExpectation, deleteExpectation } from '@/actions/feeds';
import type { Expectation } from '@/core/listing/expectations';
import type { ExpectedView } from '@/server/evaluation/expectations';
import { useAction } from '../kit/hooks/useAction';
import { SelectField } from '../kit/inputs/inputs';
import { PromptButton } from '../kit/inputs/PromptButton';
import { TextButton } from '../kit/inputs/TextButton';

/** Keeps an expectation, or lets one go, and shows the page as it is then. */
export function useExpectations(feed: string) {
  const { busy, run } = useAction();
  return {
    busy,
    expect: (expectation: Expectation, stated?: string) => run(createExpectation(feed, expectation), stated),
    noMore: (id: number) => run(deleteExpectation(feed, id)),
  };
}

interface ExpectationsProps {
  feed: string;
  expected: readonly ExpectedView[];
  categories: readonly string[];
}

/** Expectations of a feed whatever is changed in it, and whether the draft keeps it. */
export function Expectations({ feed, expected, categories }: ExpectationsProps) {
  const { busy, expect, noMore } = useExpectations(feed);
  return (
    <section className="history-part" aria-label="Expectations" aria-busy={busy}>
      <h2>Expectations</h2>
      <p className="small muted">
        Checked with every change of the draft or catalog. A broken expectation is named before you publish.
        Fix a single value in the sample panel.
      </p>
      {expected.map(({ id, words, holds, instead, found, expectation }) => (
        <div key={id} className="row">
          <span className={holds ? 'tone-ready kept' : 'tone-blocker kept'}>
            {holds ? 'holds' : 'breaks'}
          </span>
          <span className="grow">
            {words}
            {!holds && <span className="tone-blocker">; {instead}</span>}
          </span>
          {!holds && expectation.expect === 'value' && found !== undefined && (
            <TextButton onClick={() => expect({ ...expectation, value: found })}>
              Accept the new value
            </TextButton>
          )}
          <TextButton onClick={() => noMore(id)}>Remove</TextButton>
        </div>
      ))}
      {expected.length === 0 && <p className="small">No expectations yet.</p>}
      <div className="row">
        <PromptButton
          label="Expect a number of ready listings"
          ask="Minimum number of ready listings"
          onAnswer={(text) => {
            const least = Number(text);
            if (Number.isInteger(least) && least >= 0) expect({ expect: 'ready', least });
            else notifications.show({ color: 'red', message: `“${text}” is not a whole number.` });
          }}
        />
        <SelectField
          name="No blocked listing in"
          shown="beside"
          value=""
          prompt="choose a category"
          options={categories.filter((name) => name !== '')}
          onChange={(category) => expect({ expect: 'noneBlocked', category })}
        />
      </div>
    </section>
  );
}
