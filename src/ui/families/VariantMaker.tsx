'use client';
import { Button } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { useEffect, useMemo, useState } from 'react';
import { makeVariants, previewNewVariants } from '@/actions/catalog/families';
import type { Composition } from '@/core/compose/composition';
import { formatNumber } from '@/core/formatting/formatting';
import { type PlannedVariant, skuPattern } from '@/core/variants/variants';
import { CompositionEditor } from '../composition/CompositionEditor';
import type { CatalogActs } from '../kit/hooks/useCatalog';
import { coded, SelectField, TextField } from '../kit/inputs/inputs';
import type { MemberView } from './memberView';

export interface AxisOption {
  readonly code: string;
  readonly label: string;
  readonly words: readonly string[];
}

interface VariantMakerProps {
  code: string;
  variesBy: readonly string[];
  members: readonly MemberView[];
  axes: readonly AxisOption[];
  attributes: readonly { code: string; label: string }[];
  acts: CatalogActs;
}

interface Chosen {
  axis: string;
  terms: string[];
}

const troubleWords = {
  noSku: 'the pattern gives no SKU',
  taken: 'this SKU belongs to another item',
  twice: 'the pattern gives this SKU twice',
} as const;

/** Makes variants of chosen terms: every combination that is not there yet, its SKU from a pattern. */
export function VariantMaker({ code, variesBy, members, axes, attributes, acts }: VariantMakerProps) {
  const [chosen, setChosen] = useState<Chosen[]>(() =>
    variesBy.map((axis) => ({
      axis,
      terms: [...new Set(members.flatMap((member) => member.axes[axis] || []))],
    })),
  );
  const [sku, setSku] = useState<Composition>();
  const [name, setName] = useState<Composition>();
  const [planned, setPlanned] = useState<readonly PlannedVariant[]>([]);
  const [trouble, setTrouble] = useState('');
  const usable = chosen.filter(({ terms }) => terms.length > 0);
  const pattern = useMemo(() => sku ?? skuPattern(usable.map(({ axis }) => axis)), [sku, usable]);
  const request = JSON.stringify({ axes: usable, sku: pattern, ...(name ? { name } : {}) });
  // biome-ignore lint/correctness/useExhaustiveDependencies: planned again when the items have changed
  useEffect(() => {
    const requested = JSON.parse(request);
    if (requested.axes.length === 0) {
      setPlanned([]);
      setTrouble('');
      return;
    }
    let stale = false;
    void previewNewVariants(code, requested).then((answer) => {
      if (stale) return;
      setTrouble(answer.ok ? '' : answer.words);
      setPlanned(answer.ok ? answer.planned : []);
    });
    return () => {
      stale = true;
    };
  }, [request, code, members]);
  const put = (at: number, one: Chosen) => setChosen(chosen.map((old, i) => (i === at ? one : old)));
  const fresh = planned.filter(({ existing }) => existing === undefined);
  const bad = fresh.filter((one) => one.trouble);
  const options = [{ code: 'family', label: 'Family code' }, ...attributes];
  const free = axes.filter((one) => !chosen.some(({ axis }) => axis === one.code));
  return (
    <section className="panel maker" aria-label="Add variants">
      {chosen.map(({ axis, terms }, at) => (
        <div className="axis-line" key={axis}>
          <b>{axes.find((one) => one.code === axis)?.label ?? axis}</b>
          <Terms
            label={axes.find((one) => one.code === axis)?.label ?? axis}
            words={axes.find((one) => one.code === axis)?.words ?? []}
            terms={terms}
            onChange={(next) => put(at, { axis, terms: next })}
          />
          <button
            type="button"
            className="plain"
            aria-label={`Without ${axis}`}
            onClick={() => setChosen(chosen.filter((_, i) => i !== at))}
          >
            <IconX size={14} />
          </button>
        </div>
      ))}
      <span>
        <SelectField
          name="Axis of the variants"
          value=""
          prompt={chosen.length === 0 ? 'Choose the first axis' : 'Add axis'}
          options={coded(free)}
          onChange={(axis) => setChosen([...chosen, { axis, terms: [] }])}
        />
      </span>
      {usable.length > 0 && (
        <>
          <details>
            <summary>Pattern of the SKU</summary>
            <CompositionEditor
              composition={pattern}
              attributes={options}
              onChange={(next) => setSku(next ?? undefined)}
            />
          </details>
          <details>
            <summary>
              Pattern of the name {name === undefined && <span className="muted">(the family’s name)</span>}
            </summary>
            <CompositionEditor
              composition={name}
              attributes={options}
              onChange={(next) => setName(next ?? undefined)}
            />
          </details>
        </>
      )}
      {trouble && <p className="tone-blocker">{trouble}</p>}
      {planned.length > 0 && (
        <>
          <p role="status">
            <b>{formatNumber(planned.length)}</b> combinations: {formatNumber(planned.length - fresh.length)}{' '}
            exist and keep their values, <b>{formatNumber(fresh.length)}</b> are missing
            {bad.length > 0 && <span className="tone-blocker">, {bad.length} cannot be added</span>}
          </p>
          <div className="planned">
            <table className="plain">
              <tbody>
                {[...bad, ...fresh.filter((one) => !one.trouble)].slice(0, 60).map((one, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: two may have the same SKU, which is what is shown
                  <tr key={i}>
                    <td className="mono">{one.sku || '–'}</td>
                    <td>{Object.values(one.values).join(' · ')}</td>
                    <td className="tone-blocker">{one.trouble && troubleWords[one.trouble]}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      <span>
        <Button
          disabled={fresh.length === 0 || bad.length > 0 || acts.busy}
          onClick={() => acts.run((press) => makeVariants(code, JSON.parse(request), press))}
        >
          {fresh.length === 0 ? 'Nothing to add' : `Make ${formatNumber(fresh.length)} variants`}
        </Button>
      </span>
    </section>
  );
}

interface TermsProps {
  label: string;
  words: readonly string[];
  terms: readonly string[];
  onChange(terms: string[]): void;
}

function Terms({ label, words, terms, onChange }: TermsProps) {
  const [word, setWord] = useState('');
  const add = () => {
    const term = word.trim();
    if (term !== '' && !terms.includes(term)) onChange([...terms, term]);
    setWord('');
  };
  const all = [...words, ...terms.filter((term) => !words.includes(term))];
  return (
    <span className="term-chips">
      {all.map((term) => (
        <button
          key={term}
          type="button"
          className="term-chip"
          aria-pressed={terms.includes(term)}
          onClick={() =>
            onChange(
              terms.includes(term)
                ? terms.filter((one) => one !== term)
                : all.filter((one) => one === term || terms.includes(one)),
            )
          }
        >
          {term}
        </button>
      ))}
      <TextField
        name={`New term of ${label}`}
        placeholder="new term"
        width={110}
        value={word}
        onChange={setWord}
        onEnter={add}
        onBlur={add}
      />
    </span>
  );
}
