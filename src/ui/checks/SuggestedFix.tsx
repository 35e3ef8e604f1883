'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import { neverShared } from '@/core/catalog/item';
import {
  acceptedLines,
  forAllOthers,
  itemOfCategory,
  itemPlaced,
  type SuggestedLine,
} from '@/core/fixes/suggestion';
import { counted, plural } from '@/core/formatting/formatting';
import type { SuggestedFixView } from '@/server/fixes/view';
import { useDraft } from '../draft/useDraft';
import { CheckboxField, SelectField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { useApplyFix } from './useApplyFix';

/** What a line is called after its input: what a word becomes, what an item's value is. */
const inputName = (what: string) => `${what} becomes`;

const uniqueBy = <T,>(all: readonly T[], keyOf: (one: T) => string): T[] => [
  ...new Map(all.map((one) => [keyOf(one), one])).values(),
];

/** What a line of each way is called. */
const nouns: Readonly<Record<SuggestedFixView['proposal']['way']['by'], string>> = {
  words: 'word',
  places: 'place',
  field: 'field',
  change: 'change',
  text: 'text',
  items: 'value',
  numbers: 'number',
};

/** What each way of clearing a cause says of itself. */
const headings: Readonly<Record<SuggestedFixView['proposal']['way']['by'], (about: string) => string>> = {
  words: (about) => `${about}: the catalog’s words → the channel’s`,
  places: () => 'Category',
  field: (about) => `${about}: its source`,
  change: (about) => `${about}: a change of its source`,
  text: (about) => `${about}: no source in the catalog`,
  items: (about) => `${about} of these items`,
  numbers: () => 'From your own GTINs',
};

/** The change that would clear a cause: what is worked out, each with its reason, and room for what only a person knows. */
export function SuggestedFix({
  view,
  title,
  outdated,
  onDone,
}: {
  view: SuggestedFixView;
  title: string;
  /** Told what was applied, in words. */
  onDone(words: string): void;
  /** Whether it is being worked out anew: until then nothing is taken. */
  outdated: boolean;
}) {
  const { proposal, effect, about, more, moreSure, sharing, askers } = view;
  const { feed } = useDraft();
  const { way, lines, options } = proposal;
  const { take, busy } = useApplyFix();
  const [picks, setPicks] = useState<Readonly<Record<string, string>>>({});
  const [share, setShare] = useState(false);
  const others = [...new Set(sharing.map(({ name }) => name))];
  const values = acceptedLines(proposal, picks);
  const counts = lines.reduce((sum, { key, count }) => sum + (values.has(key) ? count : 0), 0);
  const rest = picks[forAllOthers] ? more : moreSure;
  const untouched = Object.keys(picks).length === 0;
  const pick = (key: string, value: string) => setPicks({ ...picks, [key]: value });
  const open = lines.filter(({ key, sure }) => !sure && !Object.hasOwn(picks, key));
  // What each item has for itself is not said of several.
  const own = way.by === 'items' && (neverShared.has(way.attribute) || way.attribute === 'image');
  const unknown = open.length + more - moreSure;
  const typed = way.by === 'items' || way.by === 'text';
  const ticked = way.by === 'places' || way.by === 'field' || way.by === 'change' || way.by === 'numbers';
  const count = values.size + rest;
  const label =
    count === 0
      ? 'Apply'
      : way.by === 'words'
        ? `Add ${counted(count, 'value')}, ${counts} listings`
        : `Apply ${counted(count, nouns[way.by])}${
            untouched && effect.frees > 0 ? `, makes ${effect.frees} ready` : ''
          }`;
  /** What is put forward and nobody has agreed to yet. */
  const offered = open.filter(({ to }) => to !== '');
  const skuOf = ({ key }: SuggestedLine) =>
    way.by === 'items' || way.by === 'numbers'
      ? key
      : way.by === 'places' && (key.startsWith(itemPlaced) || key.startsWith(itemOfCategory))
        ? key.slice(1)
        : undefined;
  const input = (key: string, name: string, value: string) =>
    options.length > 0 && (way.by === 'words' || way.by === 'text') ? (
      <SelectField
        name={name}
        value={value}
        options={[['', 'choose …'], ...options.map((one) => [one.code, one.label] as const)]}
        onChange={(choice) => pick(key, choice)}
        width="100%"
      />
    ) : (
      <TextField
        name={name}
        value={value}
        onChange={(text) => pick(key, text)}
        {...(options.length > 0 && { among: options.map(({ code }) => code) })}
      />
    );
  const shown = ({ key, what, to, sure, shown: words }: SuggestedLine) =>
    ticked ? (
      <CheckboxField
        name={words || 'no suggestion: map it in Categories'}
        checked={values.has(key)}
        disabled={to === ''}
        onChange={(on) => pick(key, on ? to : '')}
      />
    ) : (
      input(key, inputName(what), picks[key] ?? (sure ? to : ''))
    );
  return (
    <form
      className="fix"
      onSubmit={(event) => {
        event.preventDefault();
        // What is shown is what is taken, also where it would be worked out otherwise by now.
        void take(
          [{ cause: proposal.cause, picks: { ...Object.fromEntries(values), ...picks } }],
          share,
        ).then((done) => {
          if (!done) return;
          setPicks({});
          onDone(`${title}: ${label.replace(/^(?:Apply|Add) /, '')} applied.`);
        });
      }}
    >
      <div className="row">
        <h2 className="grow">{title}</h2>
        <Button type="submit" disabled={busy || outdated || count === 0}>
          {label}
        </Button>
      </div>
      <p className="small muted">{headings[way.by](about)}</p>
      {others.length > 0 && (
        <CheckboxField
          name={`Change the ${plural(others.length, 'draft')} of ${others.join(', ')} too`}
          checked={share}
          onChange={setShare}
        />
      )}
      {typed && unknown > 1 && !own && (
        <div className="all-others">
          <span className="small">
            The same for {unknown === lines.length + more ? 'all' : `the other ${unknown}`}
          </span>
          {input(forAllOthers, `The same ${about} for all others`, picks[forAllOthers] ?? '')}
        </div>
      )}
      {offered.length > 1 && (
        <p className="small">
          <TextButton
            onClick={() =>
              setPicks({ ...picks, ...Object.fromEntries(offered.map(({ key, to }) => [key, to])) })
            }
          >
            Accept all {offered.length} suggested
          </TextButton>
        </p>
      )}
      {own && way.attribute === 'gtin' && (
        <p className="small">
          <Link className="text" href="/gtins">
            Add the GTINs you bought
          </Link>
          : the next free ones are then suggested here.
        </p>
      )}
      <div className="proposed">
        {lines.map((line) => (
          <div className="proposed-line" key={line.key}>
            <span className="what">
              {skuOf(line) !== undefined ? (
                <>
                  <Link className="cut block" href={`/items/${encodeURIComponent(skuOf(line) ?? '')}`}>
                    {line.what}
                  </Link>
                  <span className="mono muted small cut block">{skuOf(line)}</span>
                </>
              ) : (
                <span className={way.by === 'words' ? 'chip text cut' : ''}>{line.what}</span>
              )}
              {line.count > 1 && <span className="small muted"> {line.count}×</span>}
              {line.now !== '' && <span className="small cut block">now {line.now}</span>}
            </span>
            <span>
              {shown(line)}
              <span className="small muted block">
                {line.to !== '' && !line.sure && picks[line.key] === undefined && !ticked && (
                  <>
                    <TextButton onClick={() => pick(line.key, line.to)}>
                      Accept “{line.shown}”
                    </TextButton>{' '}
                  </>
                )}
                {line.why}
              </span>
            </span>
          </div>
        ))}
      </div>
      {askers.length > 0 && (
        <p className="small">
          Ask the supplier: export a table, have it filled in and import it again:{' '}
          {askers.map(({ id, name, items }, at) => (
            <span key={id}>
              {at > 0 && ', '}
              <a
                className="text"
                download
                href={`/api/feeds/${feed}/workbook?fix=${encodeURIComponent(proposal.cause)}&source=${id}`}
              >
                {name}, {counted(items, 'item')}
              </a>
            </span>
          ))}
        </p>
      )}
      {more > 0 && (
        <p className="small muted">
          And {more} more like these{moreSure > 0 && `, ${moreSure} of them calculated and included`}.
        </p>
      )}
      {untouched && effect.then.length > 0 && (
        <p className="small tone-blocker">
          Another change is needed for {counted(effect.clears - effect.frees, 'listing')}:{' '}
          {effect.then.map(({ key, title: words, listings }, at) => (
            <span key={key}>
              {at > 0 && ', '}
              <Link className="text" href={`/feeds/${feed}/checks?fix=${encodeURIComponent(key)}`}>
                {words}
              </Link>{' '}
              ({listings})
            </span>
          ))}
        </p>
      )}
      {untouched && effect.blocks > 0 && (
        <p className="small tone-blocker">
          It blocks {counted(effect.blocks, 'listing')} that are ready today.
        </p>
      )}
      {untouched && effect.shown.length > 0 && (
        <p className="small">
          {effect.clears === effect.frees
            ? `${counted(effect.frees, 'listing')} become ready`
            : `${counted(effect.clears, 'listing')} without this blocker${effect.frees > 0 ? `, ${effect.frees} ready then` : ''}`}
          :{' '}
          {uniqueBy(effect.shown, ({ name, before, after }) => [name, before, after].join('\n')).map(
            ({ sku, before, after, name }, at) => (
              <span key={sku}>
                {at > 0 && '; '}
                {name}: {before === '' ? 'nothing' : <del>{before}</del>} → <ins>{after}</ins>
              </span>
            ),
          )}
        </p>
      )}
    </form>
  );
}
