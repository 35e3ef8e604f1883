'use client';
import { Button } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { type ReactNode, useEffect, useState } from 'react';
import { orderTerms, previewTermRename, rename } from '@/actions/catalog/attributes';
import type { Term } from '@/core/catalog/terms';
import { counted } from '@/core/formatting/formatting';
import { listed } from '@/core/forms/forms';
import type { TermLine, TermTouch } from '@/server/catalog/attributes';
import type { CatalogActs } from '../kit/hooks/useCatalog';
import { AutosaveTextField, TextField } from '../kit/inputs/inputs';
import { movedBefore, OrderedList } from '../kit/inputs/OrderedList';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { valueHref } from './oddWords';

interface TermListProps {
  code: string;
  terms: readonly TermLine[];
  acts: CatalogActs;
}

/** The terms of a choice in their order, each with its count and synonyms; a term can be renamed or merged into another. */
export function TermList({ code, terms, acts }: TermListProps) {
  const [word, setWord] = useState('');
  const ids = terms.map(({ term }) => term);
  const plain = plainTerms(terms);
  const put = (next: Term[]) => acts.run((press) => orderTerms(code, next, press));
  const add = () => {
    const term = word.trim();
    if (term === '' || ids.includes(term)) return;
    put([...plain, { term, synonyms: [] }]);
    setWord('');
  };
  return (
    <section className="panel scrolling" aria-label="Terms" aria-busy={acts.busy}>
      <div className="bench-head">
        <h2 className="grow">{terms.length} terms</h2>
        <TextField
          name="New term"
          value={word}
          onChange={setWord}
          placeholder="New term"
          onEnter={() => add()}
        />
        <Button variant="default" disabled={word.trim() === '' || acts.busy} onClick={add}>
          Add term
        </Button>
      </div>
      <OrderedList
        id="terms"
        className="term-line"
        rows={terms}
        keyOf={({ term }) => term}
        nameOf={({ term }) => term}
        onMove={(moved, before) => put(plainTerms(movedBefore(terms, moved, before)))}
      >
        {(line, _, grip) => (
          <TermRow
            code={code}
            line={line}
            grip={grip}
            others={ids}
            acts={acts}
            onChange={(change) =>
              put(plain.map((one) => (one.term === line.term ? { ...one, ...change } : one)))
            }
            onRemove={() => put(plain.filter((one) => one.term !== line.term))}
          />
        )}
      </OrderedList>
    </section>
  );
}

/** Terms without what is only counted; a look that was taken away is left out. */
const plainTerms = (terms: readonly TermLine[]): Term[] =>
  terms.map(({ term, synonyms, hex }) => ({ term, synonyms: [...synonyms], ...(hex ? { hex } : {}) }));

interface TermRowProps {
  code: string;
  line: TermLine;
  others: readonly string[];
  acts: CatalogActs;
  grip: ReactNode;
  onChange(change: Partial<Term>): void;
  onRemove(): void;
}

function TermRow({ code, line, grip, others, acts, onChange, onRemove }: TermRowProps) {
  const { term, synonyms, count, known } = line;
  const [to, setTo] = useState<string>();
  const [touch, setTouch] = useState<TermTouch>();
  useEffect(() => {
    if (!to?.trim() || to.trim() === term) {
      setTouch(undefined);
      return;
    }
    let stale = false;
    void previewTermRename(code, term, to.trim()).then((answer) => {
      if (!stale) setTouch(answer.ok ? answer : undefined);
    });
    return () => {
      stale = true;
    };
  }, [to, term, code]);
  return (
    <>
      {grip}
      <span className="cut" title={known ? undefined : 'Found on items, not in the list yet'}>
        <b>{term}</b>
        {!known && <span className="small muted"> found on items</span>}
      </span>
      <span className="row" style={{ gap: 5 }}>
        <AutosaveTextField
          name={`How ${term} looks, as a hexadecimal code`}
          title="Colour as a hexadecimal code; used to suggest channel colours"
          placeholder="# colour"
          mono
          width={82}
          value={line.hex ?? ''}
          onSave={(text) => onChange({ hex: text.toLowerCase() || undefined })}
        />
        {line.hex && <span className="swatch" style={{ background: line.hex }} />}
      </span>
      <AutosaveTextField
        name={`Synonyms of ${term}`}
        placeholder="synonyms"
        value={synonyms.join(', ')}
        onSave={(text) => onChange({ synonyms: listed(text) })}
      />
      <Link className="text number" href={valueHref(code, term)}>
        {counted(count, 'item')}
      </Link>
      <TextButton
        small
        aria-expanded={to !== undefined}
        onClick={() => setTo(to === undefined ? term : undefined)}
      >
        Rename
      </TextButton>
      {count === 0 ? (
        <button type="button" className="plain" aria-label={`Remove ${term}`} onClick={onRemove}>
          <IconX size={14} />
        </button>
      ) : (
        <span />
      )}
      {to !== undefined && (
        <div className="rename">
          <TextField
            name={`New name for ${term}`}
            value={to}
            onChange={setTo}
            among={others.filter((other) => other !== term)}
            autoFocus
          />

          {touch && (
            <span>
              {touch.merges ? <b className="tone-risk">Becomes one with “{to.trim()}”. </b> : null}
              Changes {counted(touch.items, 'item')}
              {touch.families > 0 && ` through ${counted(touch.families, 'family', 'families')}`}
              {touch.feeds.length > 0 && (
                <span className="tone-risk">
                  ; value mappings of {touch.feeds.join(', ')} use the old term
                </span>
              )}
            </span>
          )}
          <Button
            disabled={!touch || acts.busy}
            onClick={() =>
              acts.run(
                (press) => rename(code, term, to.trim(), press),
                () => setTo(undefined),
              )
            }
          >
            {touch?.merges ? 'Merge' : 'Rename'}
          </Button>
        </div>
      )}
    </>
  );
}
