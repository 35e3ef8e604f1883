'use client';
import { useState } from 'react';
import { setFamilyValue } from '@/actions/catalog/families';
import { setCells } from '@/actions/catalog/items';
import type { AttributeKind } from '@/core/catalog/attributeKinds';
import { pageLimits } from '@/core/catalog/sections';
import { languageInCode } from '@/core/catalog/value';
import { counted, formatDay } from '@/core/formatting/formatting';
import { textOfMarkup } from '@/core/markup/markup';
import type { ValueLine as LineView, ValueGroup } from '@/server/items/valueViews';
import { Gauge } from '../kit/display/Gauge';
import { useAddress } from '../kit/hooks/useAddress';
import { type CatalogActs, useCatalog } from '../kit/hooks/useCatalog';
import { TextButton } from '../kit/inputs/TextButton';
import { inLanguage, languagesOf, TextsIn } from '../kit/inputs/TextsIn';
import { Link } from '../kit/Link';
import { useValueEdit, ValueEditing } from './useValueEdit';

/** “tarnholt-price-list, row 2”: the file's ending and the column are in the title. */
const shortOrigin = (origin: string): string =>
  origin.replace(/\.\w+(?=, row \d)/, '').replace(/, “[^”]*”$/, '');

type Holder = { sku: string; family: string | undefined } | { familyCode: string };

/** The values of an item or a family under their headings; a click edits one in place. */
export function Values({ holder, sections }: { holder: Holder; sections: readonly ValueGroup[] }) {
  const acts = useCatalog();
  const [all, setAll] = useState(false);
  const attributes = sections.flatMap(({ values }) => values.map(({ attribute }) => attribute));
  const known = new Set(attributes.map(({ code }) => code));
  const language = useAddress().query.get('language') ?? '';
  // In one language a text stands once: in it where it is kept in it, else in the shop's own.
  const spoken = ({ attribute: { code } }: LineView) => {
    const own = languageInCode(code)?.language;
    return (
      language === '' || (own === undefined ? inLanguage(code, language, known) === code : own === language)
    );
  };
  return (
    <div className="panel item-values" aria-busy={acts.busy}>
      <TextsIn languages={languagesOf(attributes)} all="all languages" />
      {sections.map(({ name, values: every }) => {
        const values = every.filter(spoken);
        // What is empty and has something to say, as a missing translation has, is a line as well.
        const hidden = all ? [] : values.filter(({ text, note }) => text === '' && note === '');
        const shown = values.filter((value) => !hidden.includes(value));
        return (
          <section key={name} aria-label={name}>
            <h2 className="value-head">{name}</h2>
            {shown.map((value) => (
              <ValueLine key={value.attribute.code} holder={holder} value={value} acts={acts} />
            ))}
            {hidden.length > 0 && <Empty holder={holder} values={hidden} acts={acts} />}
          </section>
        );
      })}
      <TextButton style={{ padding: '8px 12px' }} onClick={() => setAll(!all)}>
        {all ? 'Hide empty attributes' : 'Show empty attributes'}
      </TextButton>
    </div>
  );
}

function Empty({ holder, values, acts }: { holder: Holder; values: readonly LineView[]; acts: CatalogActs }) {
  const [open, setOpen] = useState<string>();
  const chosen = values.find(({ attribute }) => attribute.code === open);
  return (
    <div className="empties">
      {chosen ? (
        <ValueLine holder={holder} value={chosen} acts={acts} start onEnd={() => setOpen(undefined)} />
      ) : (
        values.map(({ attribute }) => (
          <button
            key={attribute.code}
            type="button"
            className="chip empty-value"
            aria-label={`Add ${attribute.label}`}
            onClick={() => setOpen(attribute.code)}
          >
            + {attribute.label}
          </button>
        ))
      )}
    </div>
  );
}

/** A text as it stands on the page while nobody edits it. */
const displayed = (kind: AttributeKind, text: string): string =>
  kind === 'richText' ? textOfMarkup(text) : kind === 'date' ? formatDay(text) : text;
const shortened = (text: string): string => (text.length > 300 ? `${text.slice(0, 300)} …` : text);

interface ValueLineProps {
  holder: Holder;
  value: LineView;
  acts: CatalogActs;
  start?: boolean;
  onEnd?(): void;
}

function ValueLine({ holder, value, acts, start = false, onEnd }: ValueLineProps) {
  const { attribute, text, own, family, overridden, origin, words, note } = value;
  const edit = useValueEdit({
    text,
    acts,
    start,
    onEnd,
    change: (next, press) =>
      'sku' in holder
        ? setCells([{ sku: holder.sku, attribute: attribute.code, text: next }], press)
        : setFamilyValue(holder.familyCode, attribute.code, next, press),
  });
  const limit = pageLimits[attribute.code];
  return (
    <div className="line">
      <span className="muted">{attribute.label}</span>
      {edit.editing ? (
        <ValueEditing edit={edit} attribute={attribute} words={words} />
      ) : (
        <span style={{ display: 'grid', gap: 2, minWidth: 0 }}>
          <button
            type="button"
            className="plain value"
            onClick={edit.open}
            aria-label={`Change ${attribute.label}`}
          >
            {text === '' ? <span className="muted">–</span> : shortened(displayed(attribute.kind, text))}
            {note && <span className="small muted"> {note}</span>}
          </button>
          {limit !== undefined && text !== '' && <Gauge length={[...text].length} most={limit} />}
        </span>
      )}
      <span className="small muted cut" title={origin}>
        {'sku' in holder && holder.family && text !== '' && (
          <>
            {own ? (
              <b className="tone-tip">own </b>
            ) : (
              <Link className="text" href={`/families/${encodeURIComponent(holder.family)}`}>
                family
              </Link>
            )}{' '}
            {own && family !== undefined && (
              <TextButton
                small
                title={`Value of the family: ${family}`}
                onClick={() =>
                  acts.run((press) =>
                    setCells([{ sku: holder.sku, attribute: attribute.code, text: '' }], press),
                  )
                }
              >
                use the family’s value
              </TextButton>
            )}{' '}
          </>
        )}
        {overridden > 0 && (
          <span className="tone-tip">
            {counted(overridden, 'item has', 'items have')} a value of their own
          </span>
        )}
        {text === '' ? '' : shortOrigin(origin) || ('sku' in holder ? 'entered here' : '')}
      </span>
    </div>
  );
}
