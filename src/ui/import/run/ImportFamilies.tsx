'use client';
import { type GroupingWay, groupingWays, type Misfit } from '@/core/catalog/grouping';
import { formatNumber, plural } from '@/core/formatting/formatting';
import { SelectField } from '../../kit/inputs/inputs';
import type { RunSideProps } from './runFindings';

const groupingLabels: Record<GroupingWay, string> = {
  nesting: 'nesting in the file',
  sharedCode: 'a shared code',
  parentCode: 'a code of the parent row',
  sameName: 'the same name',
  names: 'names that differ only in axis words',
};

const misfitLabels: Record<Misfit, string> = {
  alone: 'no other row of its family',
  sameAxes: 'another row has the same axis values',
  noParent: 'its parent is not in the file and no other row names it',
  noName: 'has no name to compare',
};

export function Families({ run, preview, findings, acts }: RunSideProps) {
  const { grouping } = acts.mapping;
  const { families, count, loose } = findings.families;
  return (
    <div className="side-pad">
      <div className="row" style={{ flexWrap: 'wrap', gap: 14 }}>
        <SelectField
          name="Rows are variants of one product by"
          value={grouping?.by ?? ''}
          shown="beside"
          options={[
            ['', 'no families'],
            ...groupingWays.map((route) => [route, groupingLabels[route]] as const),
          ]}
          disabled={acts.locked || acts.busy}
          onChange={(by) =>
            acts.change({
              edit: 'grouping',
              grouping:
                by === ''
                  ? null
                  : { by: by as GroupingWay, ...(grouping?.column ? { column: grouping.column } : {}) },
            })
          }
        />
        {grouping?.by === 'parentCode' && (
          <SelectField
            name="in column"
            value={grouping.column ?? ''}
            shown="beside"
            options={[
              ['', 'choose a column'],
              ...(preview?.columns ?? []).map(({ name }) => [name, name] as const),
            ]}
            disabled={acts.locked || acts.busy}
            onChange={(column) =>
              acts.change({
                edit: 'grouping',
                grouping: { by: 'parentCode', ...(column ? { column } : {}) },
              })
            }
          />
        )}
      </div>
      {run.state === 'uploaded' ? (
        <p className="muted">Check all rows to see the families and the rows without one.</p>
      ) : (
        <>
          <p>
            <b>{formatNumber(count)}</b> {plural(count, 'family', 'families')}
            {loose.length > 0 && (
              <span className="tone-risk">
                , {loose.length === 100 ? '100 or more' : loose.length} {plural(loose.length, 'row')} without
                a family
              </span>
            )}
          </p>
          <table>
            <tbody>
              {loose.slice(0, 30).map(({ row, sku, misfit }) => (
                <tr key={row}>
                  <td className="mono">{sku}</td>
                  <td className="tone-risk" colSpan={2}>
                    row {row}: {misfit && misfitLabels[misfit]}
                  </td>
                </tr>
              ))}
              {families.map(({ code, name, items, axes, known }) => (
                <tr key={code}>
                  <td className="mono">{code}</td>
                  <td>{name === code ? <span className="muted">named after its items</span> : name}</td>
                  <td>
                    {items} items {axes.length > 0 && `by ${axes.join(' × ')}`}
                    {known && <span className="muted"> exists already</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  );
}
