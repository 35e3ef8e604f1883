'use client';

import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import {
  deleteFamily,
  duplicateFamily,
  moveToFamily,
  setFamilyAxes,
  splitByAxis,
} from '@/actions/catalog/families';
import { archive } from '@/actions/catalog/items';
import { counted } from '@/core/formatting/formatting';
import type { ValueGroup } from '@/server/items/valueViews';
import type { MeasuredPicture } from '@/server/pictures/pictures';
import { Pictures } from '../items/Pictures';
import { Values } from '../items/Values';
import { type CatalogActs, inDialog, useCatalog } from '../kit/hooks/useCatalog';
import { PromptButton } from '../kit/inputs/PromptButton';
import { Link } from '../kit/Link';
import type { MemberView } from './memberView';
import { type AxisOption, VariantMaker } from './VariantMaker';
import './families.css';
import { DataTable } from '../kit/display/DataTable';
import { Empty } from '../kit/Empty';
import { CheckboxField, coded, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

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
            Show its items in the grid
          </Link>
          <PromptButton
            label="Copy"
            ask="Code of the copy, without its items"
            start={`${code}-COPY`}
            disabled={acts.busy}
            onAnswer={(to) =>
              inDialog(
                acts,
                () => duplicateFamily(code, to),
                () => router.push(`/families/${encodeURIComponent(to)}`),
              )
            }
          />
          {variesBy.length > 0 && members.length > 1 && (
            <SelectField
              name="Split by"
              shown="beside"
              value=""
              prompt="choose an axis"
              options={variesBy.map((axis) => [axis, labelOf(axis)] as const)}
              onChange={(axis) => acts.run((press) => splitByAxis(code, axis, press))}
              disabled={acts.busy}
            />
          )}
          {members.length === 0 && (
            <Button
              variant="default"
              disabled={acts.busy}
              onClick={() =>
                acts.run(
                  (press) => deleteFamily(code, press),
                  () => router.push('/families'),
                )
              }
            >
              Delete
            </Button>
          )}
          <Button aria-expanded={making} onClick={() => setMaking(!making)}>
            Add variants
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
          {counted(members.length, 'item')}
          {variesBy.length > 0 && <span className="muted"> by {variesBy.map(labelOf).join(' × ')}</span>}
        </h2>
        {variesBy.map((axis) => (
          <TextButton
            key={axis}
            small
            onClick={() =>
              acts.run((press) =>
                setFamilyAxes(
                  code,
                  variesBy.filter((one) => one !== axis),
                  press,
                ),
              )
            }
          >
            Without {labelOf(axis)}
          </TextButton>
        ))}
        <SelectField
          name="Add axis"
          value=""
          prompt="Add axis"
          options={coded(rest)}
          onChange={(axis) => acts.run((press) => setFamilyAxes(code, [...variesBy, axis], press))}
          disabled={acts.busy}
        />
      </div>
      {marks.length > 0 && (
        <div className="mark-bar" style={{ margin: 8 }}>
          <b>{marks.length} selected</b>
          <PromptButton
            label="Move to a family"
            ask="Code of the family; empty to remove them"
            optional
            onAnswer={(to) => inDialog(acts, () => moveToFamily({ skus: [...marks] }, to || null), done)}
          />
          <Button
            variant="default"
            onClick={() => acts.run((press) => archive({ skus: [...marks] }, true, press), done)}
          >
            Archive {marks.length}
          </Button>
        </div>
      )}
      {members.length === 0 ? (
        <Empty title="No items yet.">
          <span className="muted">Choose terms for the axes above. Each combination becomes an item.</span>
        </Empty>
      ) : (
        <DataTable
          rows={members}
          keyOf={({ sku }) => sku}
          columns={[
            {
              head: '',
              width: 20,
              cell: ({ sku }) => (
                <CheckboxField
                  name={`Mark ${sku}`}
                  words={false}
                  checked={marks.includes(sku)}
                  onChange={(on) => setMarks(on ? [...marks, sku] : marks.filter((one) => one !== sku))}
                />
              ),
            },
            {
              head: 'SKU',
              by: ({ sku }) => sku,
              className: 'mono',
              cell: ({ sku }) => (
                <Link className="text" href={`/items/${encodeURIComponent(sku)}`}>
                  {sku}
                </Link>
              ),
            },
            ...variesBy.map((axis) => ({
              head: labelOf(axis),
              by: ({ axes: at }: MemberView) => at[axis] ?? '',
              cell: ({ axes: at }: MemberView) => at[axis] || <span className="tone-blocker">empty</span>,
            })),
            { head: 'Price', by: ({ price }) => price, className: 'mono', cell: ({ price }) => price || '–' },
            { head: 'Stock', by: ({ stock }) => stock, className: 'mono', cell: ({ stock }) => stock || '–' },
            {
              head: 'Overridden',
              className: 'tone-tip small',
              cell: ({ overrides }) => overrides.join(', '),
            },
          ]}
        />
      )}
    </section>
  );
}
