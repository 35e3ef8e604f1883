'use client';
import { Button, FileButton } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useRouter } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import { type Beginning, makeOwnChannel, type PreviewedField, previewChannel } from '@/actions/channels';
import { counted } from '@/core/formatting/formatting';
import { NeedMark } from '../fields/NeedMark';
import { FilterChips } from '../kit/display/FilterChips';
import { textOfFile } from '../kit/inputs/textOfFile';
import { Link } from '../kit/Link';
import './channels.css';
import { SelectField, TextField } from '../kit/inputs/inputs';

type From = Beginning['from'];

const ways: Readonly<Record<From, { label: string; words: string; place?: string }>> = {
  headings: {
    label: 'Heading row',
    words:
      'Paste the first lines of the channel’s template, or of a file that it accepted. The heading row gives the fields; the rows below show kinds and choices.',
    place: 'sku,title,price,colour\nA-1,Ridge pot,24.90,moss',
  },
  schema: {
    label: 'JSON Schema',
    words:
      'Properties become fields. Required properties become required fields; enumerations become choices.',
    place: '{ "type": "object", "required": ["id"], "properties": { "id": { "type": "string" } } }',
  },
  copy: { label: 'Copy of a channel', words: 'Starts with everything that channel requires.' },
  file: {
    label: 'Requirement sheet',
    words: 'An exported sheet, with its category tree if it has one.',
    place: '{ "format": "lively-cart/sheet@1", … }',
  },
};

/** The fields that are recognised so far, while the text is typed. */
function Recognised({
  from,
  text,
  taxonomy,
  of,
}: {
  from: From;
  text: string;
  taxonomy: string;
  of: string;
}) {
  const [typed] = useDebouncedValue(text, 400);
  const [found, setFound] = useState<{ fields: readonly PreviewedField[]; error: string }>();
  useEffect(() => {
    let current = true;
    if (from !== 'copy' && typed.trim() === '') {
      setFound(undefined);
      return;
    }
    const beginning: Beginning =
      from === 'copy'
        ? { from, of }
        : from === 'file'
          ? { from, text: typed, taxonomy }
          : { from, text: typed };
    void previewChannel(beginning).then((answer) => {
      if (current)
        setFound(answer.ok ? { fields: answer.fields, error: '' } : { fields: [], error: answer.words });
    });
    return () => {
      current = false;
    };
  }, [from, typed, taxonomy, of]);
  return (
    <section className="recognised" aria-label="Recognised fields" aria-live="polite">
      <h2>
        {found && found.fields.length > 0 ? counted(found.fields.length, 'field') : 'Recognised fields'}
      </h2>
      {!found && <p className="small muted">The fields appear here as you paste or type.</p>}
      {found?.error && <p className="small tone-risk">{found.error}</p>}
      {found?.fields.map(({ label, kind, need, choices }) => (
        <div key={label} className="row">
          <b className="grow cut">{label}</b>
          <span className="small muted">{choices > 0 ? counted(choices, 'choice') : kind}</span>
          <NeedMark need={need} here={false} />
        </div>
      ))}
    </section>
  );
}

/** Creates a channel of the merchant's own, from what they have of it. */
export function NewChannel({ channels }: { channels: readonly { code: string; name: string }[] }) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [from, setFrom] = useState<From>('headings');
  const [head, setHead] = useState({ name: '', country: 'DE', language: 'de', currency: 'EUR' });
  const [text, setText] = useState('');
  const [taxonomy, setTaxonomy] = useState('');
  const [of, setOf] = useState(channels[0]?.code ?? '');
  const [error, setError] = useState('');
  const route = ways[from];
  const make = () =>
    startBusy(async () => {
      const beginning: Beginning =
        from === 'copy' ? { from, of } : from === 'file' ? { from, text, taxonomy } : { from, text };
      const answer = await makeOwnChannel(beginning, head);
      if (answer.ok) router.push(`/channels/${answer.code}/edit`);
      else setError(answer.words);
    });
  const input = (name: keyof typeof head, label: string, width: number) => (
    <TextField
      name={label}
      shown="above"
      value={head[name]}
      onChange={(text) => setHead({ ...head, [name]: text })}
      width={width}
    />
  );
  return (
    <>
      <header className="page-head">
        <h1>Create a channel</h1>
        <span className="sub">described by a requirement sheet</span>
        <div className="acts">
          <Link className="text" href="/channels">
            All channels
          </Link>
        </div>
      </header>
      <form
        className="panel new-channel"
        onSubmit={(event) => {
          event.preventDefault();
          make();
        }}
      >
        <FilterChips
          options={(Object.keys(ways) as From[]).map((key) => [key, ways[key].label] as const)}
          current={from}
          onPick={(key) => {
            setFrom(key);
            setError('');
          }}
        />
        {from !== 'file' && (
          <div className="channel-head">
            {input('name', 'Name', 240)}
            {input('country', 'Country', 60)}
            {input('language', 'Language', 60)}
            {input('currency', 'Currency', 70)}
          </div>
        )}
        <p className="muted">{route.words}</p>
        <div className="channel-columns">
          <div className="channel-source">
            {from === 'copy' ? (
              <SelectField
                name="Channel to copy"
                value={of}
                options={channels.map(({ code, name }) => [code, name] as const)}
                onChange={setOf}
              />
            ) : (
              <>
                <TextField
                  name={route.label}
                  value={text}
                  onChange={setText}
                  mono
                  rows={12}
                  placeholder={route.place}
                />
                {from === 'file' && (
                  <TextField
                    name="Category tree"
                    value={taxonomy}
                    onChange={setTaxonomy}
                    mono
                    rows={5}
                    placeholder={'code,parent,name_en,synonyms\npots,,Pots,planter'}
                  />
                )}
              </>
            )}
          </div>
          <Recognised from={from} text={text} taxonomy={taxonomy} of={of} />
        </div>
        {error !== '' && (
          <p className="tone-blocker" role="alert">
            {error}
          </p>
        )}
        <div className="row">
          <Button type="submit" disabled={busy || (from !== 'copy' && text.trim() === '')}>
            Create channel
          </Button>
          {from !== 'copy' && (
            <FileButton onChange={(file) => file && void textOfFile(file).then(setText)}>
              {(props) => (
                <Button variant="default" {...props}>
                  Choose a file
                </Button>
              )}
            </FileButton>
          )}
          {from === 'file' && (
            <FileButton onChange={(file) => file && void textOfFile(file).then(setTaxonomy)}>
              {(props) => (
                <Button variant="default" {...props}>
                  Choose a category file
                </Button>
              )}
            </FileButton>
          )}
        </div>
      </form>
    </>
  );
}
