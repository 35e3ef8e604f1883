'use client';
import { Button } from '@mantine/core';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import {
  archive,
  duplicateFamily,
  moveToFamily,
  setFamilyAxes,
  splitByAxis,
  takeFamilyAway,
} from '@/actions/catalog';
import type { MeasuredPicture } from '@/server/catalog/pictures';
import type { ValueGroup } from '@/server/catalog/valueViews';
import { AskWord } from '../items/AskWord';
import { Pictures } from '../items/Pictures';
import { type CatalogActs, useCatalog } from '../items/useCatalog';
import { Values } from '../items/Values';
import { type AxisOption, VariantMaker } from './VariantMaker';
import './families.css';
import { Choice, coded, Tick } from '../kit/fields';

export interface MemberView {
  readonly sku: string;
  readonly axes: Readonly<Record<string, string>>;
  readonly price: string;
  readonly stock: string;
  readonly overrides: readonly string[];
}

interface FamilyPageProps {
  code: string;
  name: string;
  variesBy: readonly string[];
  sections: readonly ValueGroup[];
  pictures: readonly MeasuredPicture[];
  members: readonly MemberView[];
  axes: readonly AxisOption[];
  attributes: readonly { code: string; label: string }[];
}

/** A family: what all its items share, its items by axis, and the variants that could still be made. */
export function FamilyPage({
  code,
  name,
  variesBy,
  sections,
  pictures,
  members,
  axes,
  attributes,
}: FamilyPageProps) {
  const acts = useCatalog();
  const router = useRouter();
  const [making, setMaking] = useState(members.length === 0);
  const labelOf = (axis: string) => axes.find((one) => one.code === axis)?.label ?? axis;
  return (
    <>
      <header className="page-head">
        <h1 className="cut">{name}</h1>
        <span className="mono muted">{code}</span>
        <div className="acts">
          <Link className="text" href={`/items?f.family=%3D${encodeURIComponent(code)}`}>
            Its items in the grid
          </Link>
          <AskWord
            label="Copy"
            ask="Code of the copy, without its items"
            start={`${code}-COPY`}
            disabled={acts.busy}
            onAnswer={(to) =>
              acts.run(
                () => duplicateFamily(code, to),
                () => router.push(`/families/${encodeURIComponent(to)}`),
              )
            }
          />
          {variesBy.length > 0 && members.length > 1 && (
            <Choice
              name="Split by"
              shown="beside"
              value=""
              prompt="choose an axis"
              options={variesBy.map((axis) => [axis, labelOf(axis)] as const)}
              onChange={(axis) => acts.run(() => splitByAxis(code, axis))}
              disabled={acts.busy}
            />
          )}
          {members.length === 0 && (
            <Button
              variant="default"
              disabled={acts.busy}
              onClick={() =>
                acts.run(
                  () => takeFamilyAway(code),
                  () => router.push('/families'),
                )
              }
            >
              Take away
            </Button>
          )}
          <Button aria-expanded={making} onClick={() => setMaking(!making)}>
            Make variants
          </Button>
        </div>
      </header>
      <div className="family-grid">
        <div className="family-main">
          {making && (
            <VariantMaker
              code={code}
              variesBy={variesBy}
              members={members}
              axes={axes}
              attributes={attributes}
              acts={acts}
            />
          )}
          <Members
            code={code}
            variesBy={variesBy}
            members={members}
            axes={axes}
            labelOf={labelOf}
            acts={acts}
          />
        </div>
        <div className="item-side">
          <Values holder={{ familyCode: code }} sections={sections} />
          <Pictures
            holder={{ family: code }}
            name={name}
            pictures={pictures}
            duplicates={[]}
            inherited={false}
          />
        </div>
      </div>
    </>
  );
}

interface MembersProps {
  code: string;
  variesBy: readonly string[];
  members: readonly MemberView[];
  axes: readonly AxisOption[];
  labelOf(axis: string): string;
  acts: CatalogActs;
}

function Members({ code, variesBy, members, axes, labelOf, acts }: MembersProps) {
  const [marks, setMarks] = useState<readonly string[]>([]);
  const rest = axes.filter((one) => !variesBy.includes(one.code));
  const done = () => setMarks([]);
  return (
    <section className="panel members" aria-label="Items of the family">
      <div className="bench-head">
        <h2 className="grow">
          {members.length} {members.length === 1 ? 'item' : 'items'}
          {variesBy.length > 0 && <span className="muted"> by {variesBy.map(labelOf).join(' × ')}</span>}
        </h2>
        {variesBy.map((axis) => (
          <button
            key={axis}
            type="button"
            className="link small"
            onClick={() =>
              acts.run(() =>
                setFamilyAxes(
                  code,
                  variesBy.filter((one) => one !== axis),
                ),
              )
            }
          >
            Without {labelOf(axis)}
          </button>
        ))}
        <Choice
          name="Add an axis"
          value=""
          prompt="Add an axis"
          options={coded(rest)}
          onChange={(axis) => acts.run(() => setFamilyAxes(code, [...variesBy, axis]))}
          disabled={acts.busy}
        />
      </div>
      {marks.length > 0 && (
        <div className="mark-bar" style={{ margin: 8 }}>
          <b>{marks.length} marked</b>
          <AskWord
            label="Move to a family"
            ask="Code of the family; nothing to take them out"
            optional
            onAnswer={(to) => acts.run(() => moveToFamily({ skus: [...marks] }, to || null), done)}
          />
          <Button variant="default" onClick={() => acts.run(() => archive({ skus: [...marks] }, true), done)}>
            Archive {marks.length}
          </Button>
        </div>
      )}
      {members.length === 0 ? (
        <div className="empty">
          <b>It has no items yet.</b>
          <span className="muted">Choose terms for its axes above; each combination becomes an item.</span>
        </div>
      ) : (
        <table className="plain">
          <thead>
            <tr>
              <th style={{ width: 20 }} />
              <th>SKU</th>
              {variesBy.map((axis) => (
                <th key={axis}>{labelOf(axis)}</th>
              ))}
              <th>Price</th>
              <th>Stock</th>
              <th>Says otherwise</th>
            </tr>
          </thead>
          <tbody>
            {members.map(({ sku, axes: at, price, stock, overrides }) => (
              <tr key={sku}>
                <td>
                  <Tick
                    name={`Mark ${sku}`}
                    words={false}
                    checked={marks.includes(sku)}
                    onChange={(on) => setMarks(on ? [...marks, sku] : marks.filter((one) => one !== sku))}
                  />
                </td>
                <td className="mono">
                  <Link className="text" href={`/items/${encodeURIComponent(sku)}`}>
                    {sku}
                  </Link>
                </td>
                {variesBy.map((axis) => (
                  <td key={axis}>{at[axis] || <span className="tone-blocker">empty</span>}</td>
                ))}
                <td className="mono">{price || <span className="muted">–</span>}</td>
                <td className="mono">{stock || <span className="muted">–</span>}</td>
                <td className="tone-tip small">{overrides.join(', ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
