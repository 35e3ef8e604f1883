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

/** What is expected of a feed whatever is changed in it, and whether the draft keeps it. */
export function Expectations({ feed, expected, categories }: ExpectationsProps) {
  const { busy, expect, noMore } = useExpectations(feed);
  return (
    <section className="history-part" aria-label="What is expected" aria-busy={busy}>
      <h2>What is expected</h2>
      <p className="small muted">
        Looked at on every draft and every change of the catalog, and named before you publish. A value that
        is to stay is kept beside its listing, in the sample tray.
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
              Expect the new one instead
            </TextButton>
          )}
          <TextButton onClick={() => noMore(id)}>No more</TextButton>
        </div>
      ))}
      {expected.length === 0 && <p className="small">Nothing yet.</p>}
      <div className="row">
        <PromptButton
          label="At least so many ready"
          ask="How many listings are to be ready at least?"
          onAnswer={(text) => {
            const least = Number(text);
            if (Number.isInteger(least) && least >= 0) expect({ expect: 'ready', least });
            else notifications.show({ color: 'red', message: `“${text}” is not a whole number.` });
          }}
        />
        <SelectField
          name="None blocked of"
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
