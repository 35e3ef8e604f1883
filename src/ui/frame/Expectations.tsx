'use client';
import { Button, NumberInput, TextInput } from '@mantine/core';
import { type FormEvent, type ReactNode, useState } from 'react';
import { createExpectation, createValueExpectation, deleteExpectation } from '@/actions/feeds';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { Expectation } from '@/core/listing/expectations';
import type { ExpectedView, PresentFigures } from '@/server/evaluation/expectations';
import { useAction } from '../kit/hooks/useAction';
import { coded, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

/** Adds and removes expectations, and shows the page as it is then. */
export function useExpectations(feed: string) {
  const { busy, run } = useAction();
  return {
    busy,
    expect: (expectation: Expectation, stated?: string) => run(createExpectation(feed, expectation), stated),
    remove: (id: number) => run(deleteExpectation(feed, id)),
  };
}

interface SentenceProps {
  label: string;
  busy: boolean;
  /** What the draft has at present. */
  now: string;
  error?: string | undefined;
  onAdd(): void | Promise<void>;
  children: ReactNode;
}

/** An expectation as a sentence to fill in, with what is so at present. */
function Sentence({ label, busy, now, error, onAdd, children }: SentenceProps) {
  const add = (event: FormEvent) => {
    event.preventDefault();
    void onAdd();
  };
  return (
    <form className="sentence" aria-label={label} onSubmit={add}>
      {children}
      <span
        className={error ? 'tone-blocker small grow' : 'muted small grow'}
        role={error ? 'alert' : undefined}
      >
        {error || now}
      </span>
      <Button type="submit" variant="default" disabled={busy}>
        Add expectation
      </Button>
    </form>
  );
}

function Sentences({ feed, present }: { feed: string; present: PresentFigures }) {
  const { busy, run, words } = useRefusable();
  const [least, setLeast] = useState<number | string>(present.ready);
  const [category, setCategory] = useState(present.categories[0]?.name ?? '');
  const [field, setField] = useState(present.example?.field ?? present.fields[0]?.code ?? '');
  const [sku, setSku] = useState('');
  const blocked = present.categories.find(({ name }) => name === category)?.blocked ?? 0;
  return (
    <>
      <Sentence
        label="Expect ready listings"
        busy={busy}
        now={`now ${formatNumber(present.ready)}`}
        error={words.ready}
        onAdd={() => run('ready', () => createExpectation(feed, { expect: 'ready', least: Number(least) }))}
      >
        At least
        <NumberInput
          aria-label="Minimum of ready listings"
          value={least}
          onChange={setLeast}
          min={0}
          allowDecimal={false}
          hideControls
          w={90}
          required
        />
        listings ready
      </Sentence>
      {present.categories.length > 0 && (
        <Sentence
          label="Expect no blocked listing"
          busy={busy}
          now={`now ${counted(blocked, 'blocked listing')}`}
          error={words.noneBlocked}
          onAdd={() => run('noneBlocked', () => createExpectation(feed, { expect: 'noneBlocked', category }))}
        >
          No blocked listing in
          <SelectField
            name="Category"
            value={category}
            options={present.categories.map(({ name }) => name)}
            onChange={setCategory}
          />
        </Sentence>
      )}
      <Sentence
        label="Expect a value"
        busy={busy}
        now={present.example ? `for example ${present.example.sku}, now “${present.example.value}”` : ''}
        error={words.value}
        onAdd={() =>
          run('value', async () => {
            const answer = await createValueExpectation(feed, sku.trim(), field);
            if (answer.ok) setSku('');
            return answer;
          })
        }
      >
        <SelectField name="Field" value={field} options={coded(present.fields)} onChange={setField} />
        of
        <TextInput
          aria-label="SKU"
          placeholder="SKU"
          className="mono"
          w={190}
          value={sku}
          onChange={(event) => setSku(event.currentTarget.value)}
          required
        />
        stays as it is
      </Sentence>
    </>
  );
}

/** Runs an action of one of several forms; the reason of a refusal stays beside its form. */
function useRefusable() {
  const { busy, run: act } = useAction();
  const [words, setWords] = useState<Readonly<Record<string, string>>>({});
  const run = async (form: string, work: () => ReturnType<typeof createExpectation>) => {
    const answer = await work();
    setWords({ [form]: answer.ok ? '' : answer.words });
    if (answer.ok) act(Promise.resolve(answer));
  };
  return { busy, run, words };
}

interface ExpectationsProps {
  feed: string;
  expected: readonly ExpectedView[];
  present: PresentFigures | undefined;
}

/** What is expected of a feed whatever changes, whether the draft keeps it, and sentences to add more. */
export function Expectations({ feed, expected, present }: ExpectationsProps) {
  const { busy, expect, remove } = useExpectations(feed);
  return (
    <section className="history-part" aria-label="Expectations" aria-busy={busy}>
      <h2>Expectations</h2>
      <p className="small muted">
        Checked with every change of the draft or the catalog. Publishing a draft that breaks one asks first.
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
          <TextButton onClick={() => remove(id)}>Remove</TextButton>
        </div>
      ))}
      {expected.length === 0 && (
        <p className="small">No expectations yet. Complete one of these sentences:</p>
      )}
      {present && <Sentences feed={feed} present={present} />}
    </section>
  );
}
