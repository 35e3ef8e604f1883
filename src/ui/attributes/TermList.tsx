'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Button } from '@mantine/core';
import { IconGripVertical, IconX } from '@tabler/icons-react';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { lookAtRename, orderTerms, rename } from '@/actions/catalog';
import type { Term } from '@/core/catalog/attributes';
import type { TermLine, TermTouch } from '@/server/catalog/attributes';
import { useSortSensors } from '../bench/useSortSensors';
import type { CatalogActs } from '../items/useCatalog';
import { listed, SavedWords, Words } from '../kit/fields';

interface TermListProps {
  code: string;
  terms: readonly TermLine[];
  acts: CatalogActs;
}

/** The terms of a choice in their order, each with its count and synonyms; a term can be renamed or merged into another. */
export function TermList({ code, terms, acts }: TermListProps) {
  const [word, setWord] = useState('');
  const sensors = useSortSensors();
  const ids = terms.map(({ term }) => term);
  const plain = terms.map(
    ({ term, synonyms, hex }): Term => ({
      term,
      synonyms: [...synonyms],
      ...(hex ? { hex } : {}),
    }),
  );
  const put = (next: typeof plain) => acts.run(() => orderTerms(code, next));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      put(arrayMove(plain, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
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
        <Words
          name="Another term"
          value={word}
          onChange={setWord}
          placeholder="Another term"
          onEnter={() => add()}
        />
        <Button variant="default" disabled={word.trim() === '' || acts.busy} onClick={add}>
          Add term
        </Button>
      </div>
      <DndContext id="terms" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          {terms.map((line) => (
            <TermRow
              key={line.term}
              code={code}
              line={line}
              others={ids}
              acts={acts}
              onSynonyms={(synonyms) =>
                put(plain.map((one) => (one.term === line.term ? { ...one, synonyms } : one)))
              }
              onHex={(hex) =>
                put(
                  plain.map((one) => {
                    if (one.term !== line.term) return one;
                    const { hex: _old, ...rest } = one;
                    return hex === undefined ? rest : { ...rest, hex };
                  }),
                )
              }
              onRemove={() => put(plain.filter((one) => one.term !== line.term))}
            />
          ))}
        </SortableContext>
      </DndContext>
    </section>
  );
}

interface TermRowProps {
  code: string;
  line: TermLine;
  others: readonly string[];
  acts: CatalogActs;
  onSynonyms(synonyms: string[]): void;
  onHex(hex: string | undefined): void;
  onRemove(): void;
}

function TermRow({ code, line, others, acts, onSynonyms, onHex, onRemove }: TermRowProps) {
  const { term, synonyms, count, known } = line;
  const [to, setTo] = useState<string>();
  const [touch, setTouch] = useState<TermTouch>();
  const { setNodeRef, attributes, listeners, transform, transition } = useSortable({ id: term });
  useEffect(() => {
    if (!to?.trim() || to.trim() === term) {
      setTouch(undefined);
      return;
    }
    let stale = false;
    void lookAtRename(code, term, to.trim()).then((answer) => {
      if (!stale) setTouch(answer.ok ? answer : undefined);
    });
    return () => {
      stale = true;
    };
  }, [to, term, code]);
  return (
    <div
      ref={setNodeRef}
      className="term-line"
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <button type="button" className="plain grip" aria-label={`Move ${term}`} {...attributes} {...listeners}>
        <IconGripVertical size={15} />
      </button>
      <span className="cut" title={known ? undefined : 'Not among the terms yet, but found on items'}>
        <b>{term}</b>
        {!known && <span className="small muted"> found on items</span>}
      </span>
      <span className="row" style={{ gap: 5 }}>
        <SavedWords
          name={`How ${term} looks, as a hexadecimal code`}
          title="How it looks: colours of channels are suggested by it"
          placeholder="# colour"
          mono
          width={82}
          value={line.hex ?? ''}
          onSave={(text) => onHex(text.toLowerCase() || undefined)}
        />
        {line.hex && <span className="swatch" style={{ background: line.hex }} />}
      </span>
      <SavedWords
        name={`Synonyms of ${term}`}
        placeholder="other words for it"
        value={synonyms.join(', ')}
        onSave={(text) => onSynonyms(listed(text))}
      />
      <Link
        className="text number"
        href={`/items?columns=sku,name,${code}&f.${code}=%3D${encodeURIComponent(term)}`}
      >
        {count} {count === 1 ? 'item' : 'items'}
      </Link>
      <button
        type="button"
        className="link small"
        aria-expanded={to !== undefined}
        onClick={() => setTo(to === undefined ? term : undefined)}
      >
        Rename
      </button>
      {count === 0 ? (
        <button type="button" className="plain" aria-label={`Take ${term} away`} onClick={onRemove}>
          <IconX size={14} />
        </button>
      ) : (
        <span />
      )}
      {to !== undefined && (
        <div className="rename">
          <Words
            name={`New word for ${term}`}
            value={to}
            onChange={setTo}
            among={others.filter((other) => other !== term)}
            autoFocus
          />

          {touch && (
            <span>
              {touch.merges ? <b className="tone-risk">Becomes one with “{to.trim()}”. </b> : null}
              Changes {touch.items} {touch.items === 1 ? 'item' : 'items'}
              {touch.families > 0 &&
                ` through ${touch.families} ${touch.families === 1 ? 'family' : 'families'}`}
              {touch.feeds.length > 0 && (
                <span className="tone-risk">
                  ; value tables of {touch.feeds.join(', ')} look the old word up
                </span>
              )}
            </span>
          )}
          <Button
            disabled={!touch || acts.busy}
            onClick={() =>
              acts.run(
                () => rename(code, term, to.trim()),
                () => setTo(undefined),
              )
            }
          >
            {touch?.merges ? 'Merge' : 'Rename'}
          </Button>
        </div>
      )}
    </div>
  );
}
