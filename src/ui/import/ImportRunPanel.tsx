'use client';
import { choose, startImport } from '@/actions/import';
import type { Attribute } from '@/core/catalog/attributes';
import { type GroupingWay, groupingWays, type Misfit } from '@/core/catalog/grouping';
import type { Damage } from '@/core/import/mapping/damage';
import { damageWords } from '@/core/import/mapping/repairs';
import type { RunPreview } from '@/server/import/preview';
import type { RunRow } from '@/server/import/runs';
import type { listRunFamilies, StagedLine } from '@/server/import/sources';
import type { ImportEffects } from '@/server/pages/importEffect';
import { useOpen } from '../kit/hooks/useOpen';
import { CheckboxField, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';
import { FeedEffects } from './FeedEffects';
import type { RunActs } from './useImportRun';

export interface RunFindings {
  readonly rejections: readonly { row: number; reason: string }[];
  readonly staged: Readonly<Record<'new' | 'changed' | 'missing', readonly StagedLine[]>>;
  readonly chosen: Readonly<Record<'new' | 'changed' | 'missing', number>>;
  readonly families: Awaited<ReturnType<typeof listRunFamilies>>;
  readonly kept: readonly { sku: string; kept: readonly string[] }[];
  /** Effect on each feed; undefined once the import is applied. */
  readonly effects: ImportEffects | undefined;
}

interface RunSideProps {
  run: RunRow;
  preview: RunPreview | undefined;
  findings: RunFindings;
  targets: readonly Attribute[];
  acts: RunActs;
}

const tabNames = {
  items: 'Items',
  families: 'Families',
  damage: 'Damage',
  changes: 'Changes',
  feeds: 'Feeds',
} as const;
type Tab = keyof typeof tabNames;

const groupingLabels: Record<GroupingWay, string> = {
  nesting: 'nesting in the file',
  sharedCode: 'a code they share',
  parentCode: 'a code that names their parent row',
  sameName: 'the same name',
  names: 'names that differ only in axis words',
};

const misfitLabels: Record<Misfit, string> = {
  alone: 'no other row belongs with it',
  sameAxes: 'another row has the same value on every axis',
  noParent: 'its parent is not in the file and no other row names it',
  noName: 'has no name to compare',
};

/** What a run would bring: items as they will be, families, damage, and changes row by row. */
export function ImportRunPanel(props: RunSideProps) {
  const { run, findings } = props;
  const { open: asked, setOpen } = useOpen('tab');
  const looked = run.state !== 'uploaded' && run.state !== 'checking';
  const tab = (Object.keys(tabNames) as Tab[]).find((one) => one === asked) ?? (looked ? 'changes' : 'items');
  const figures: Partial<Record<Tab, number>> = looked
    ? {
        families: findings.families.count,
        damage: run.repairs?.reduce((sum, { count }) => sum + count, 0) ?? 0,
        changes: run.counts.new + run.counts.changed + run.counts.missing + run.counts.rejected,
      }
    : {};
  return (
    <>
      <div className="bench-head" role="tablist" aria-label="What the run brings">
        {(Object.keys(tabNames) as Tab[]).map((one) => (
          <button
            key={one}
            type="button"
            role="tab"
            className="filter"
            aria-selected={tab === one}
            onClick={() => setOpen(one)}
          >
            {tabNames[one]} {figures[one]?.toLocaleString()}
          </button>
        ))}
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and the keyboard must reach it */}
      <div className="preview" role="tabpanel" aria-label={tabNames[tab]} tabIndex={0}>
        {tab === 'items' && <Items {...props} />}
        {tab === 'families' && <Families {...props} />}
        {tab === 'damage' && <Damages {...props} />}
        {tab === 'changes' && <Changes {...props} />}
        {tab === 'feeds' && <FeedEffects run={run} effects={findings.effects} acts={props.acts} />}
      </div>
    </>
  );
}

function Items({ preview, targets, acts }: RunSideProps) {
  if (!preview) return null;
  const shown = targets.filter(({ code }) => acts.mapping.fields[code] !== undefined && code !== 'sku');
  return (
    <table>
      <thead>
        <tr>
          <th>Row</th>
          <th>SKU</th>
          {shown.map(({ code, label }) => (
            <th key={code}>{label}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {preview.rows.map((row) => (
          <tr key={row.row}>
            <td className="muted">{row.row}</td>
            {row.rejected ? (
              <td className="tone-blocker" colSpan={shown.length + 1}>
                {row.rejected}
              </td>
            ) : (
              <>
                <td className="mono">{row.sku}</td>
                {shown.map(({ code }) => (
                  <td key={code}>{row.values[code]}</td>
                ))}
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Families({ run, preview, findings, acts }: RunSideProps) {
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
            ['', 'nothing: no families'],
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
            name="which stands in"
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
        <p className="muted">Check all rows to see the families this makes and the rows that fit none.</p>
      ) : (
        <>
          <p>
            <b>{count.toLocaleString()}</b> {count === 1 ? 'family' : 'families'}
            {loose.length > 0 && (
              <span className="tone-risk">
                , {loose.length === 100 ? '100 or more' : loose.length} {loose.length === 1 ? 'row' : 'rows'}{' '}
                that do not fit
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
                  <td>
                    {name === code ? <span className="muted">its name stands with its items</span> : name}
                  </td>
                  <td>
                    {items} items {axes.length > 0 && `by ${axes.join(' × ')}`}
                    {known && <span className="muted"> already there</span>}
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

function Damages({ run, targets, acts }: RunSideProps) {
  const accepted = acts.mapping.repairs ?? [];
  const toggle = (damage: Damage) => {
    acts.change({ edit: 'repair', damage, accepted: !accepted.includes(damage) });
    acts.act((press) => startImport(run.id, 'check', press));
  };
  if (!run.repairs || run.state === 'uploaded')
    return (
      <p className="side-pad muted">
        Check all rows to see what a spreadsheet or a wrong encoding did to them.
      </p>
    );
  if (run.repairs.length === 0) return <p className="side-pad tone-ready">No damage was found.</p>;
  return (
    <section className="repairs" aria-label="Repairs proposed">
      <h2>Damage found; repaired only where you accept it</h2>
      {run.repairs.map(({ damage, attribute, count, repairable, examples }) => (
        <div key={damage + attribute} className="repair">
          <CheckboxField
            name={`${count} ${targets.find(({ code }) => code === attribute)?.label ?? attribute} ${damageWords[damage]}`}
            words={
              <>
                <b>
                  {count} {targets.find(({ code }) => code === attribute)?.label ?? attribute}
                </b>{' '}
                {damageWords[damage]}
                {repairable < count && (
                  <span className="tone-blocker">, {count - repairable} beyond repair: ask the sender</span>
                )}
                {examples.slice(0, 2).map((one) => (
                  <span className="small muted" style={{ display: 'block' }} key={one.sku + one.from}>
                    <span className="mono">{one.sku}</span>{' '}
                    <mark className="gone">{one.from.slice(0, 40)}</mark>{' '}
                    {one.to !== null && <mark className="new">{one.to.slice(0, 40)}</mark>} {one.reason}
                  </span>
                ))}
              </>
            }
            checked={accepted.includes(damage)}
            disabled={acts.busy || acts.locked || repairable === 0}
            onChange={() => toggle(damage)}
          />
        </div>
      ))}
    </section>
  );
}

/** Attributes of which a run keeps, or overwrites, what a person mended by hand. */
function keptValuesOf(run: RunSideProps['run'], acts: RunActs): [string, number][] {
  const blocked = run.held ?? {};
  const requested = (acts.mapping.overwrite ?? []).filter((code) => blocked[code] === undefined);
  return [...Object.entries(blocked), ...requested.map((code): [string, number] => [code, 0])];
}

const kindLabels = { new: 'new', changed: 'changed', missing: 'missing from the file' } as const;

function Changes({ run, findings, targets, acts }: RunSideProps) {
  const labelOf = (code: string) => targets.find((one) => one.code === code)?.label ?? code;
  if (run.state === 'uploaded')
    return (
      <p className="side-pad muted">Check all rows to see what is new, what changes, and what is refused.</p>
    );
  const open = run.state === 'checked';
  return (
    <table className="changes">
      <tbody>
        {keptValuesOf(run, acts).map(([attribute, count]) => (
          <tr key={`h${attribute}`}>
            <td />
            <td>{labelOf(attribute)}</td>
            <td className="tone-tip">
              {acts.mapping.overwrite?.includes(attribute)
                ? 'taken from the file, also where it was mended by hand'
                : `${count} mended by hand ${count === 1 ? 'stays' : 'stay'} although the file says otherwise`}
              {open && (
                <TextButton
                  small
                  style={{ marginLeft: 10 }}
                  onClick={() => {
                    const on = !acts.mapping.overwrite?.includes(attribute);
                    acts.change({ edit: 'overwrite', attribute, on });
                    acts.act((press) => startImport(run.id, 'check', press));
                  }}
                >
                  {acts.mapping.overwrite?.includes(attribute) ? 'Keep mine' : 'Take the file’s'}
                </TextButton>
              )}
            </td>
          </tr>
        ))}
        {findings.kept.map(({ sku, kept }) => (
          <tr key={`k${sku}`}>
            <td />
            <td className="mono">{sku}</td>
            <td className="tone-risk">not undone, changed since: {kept.map(labelOf).join(', ')}</td>
          </tr>
        ))}
        {findings.rejections.map(({ row, reason }) => (
          <tr key={`r${row}`}>
            <td />
            <td className="muted">row {row}</td>
            <td className="tone-blocker">rejected: {reason}</td>
          </tr>
        ))}
        {(['changed', 'new', 'missing'] as const).map((kind) => {
          const lines = findings.staged[kind];
          const total = run.counts[kind];
          if (lines.length === 0) return null;
          const idle = kind === 'missing' && acts.mapping.missing === 'leave';
          return [
            <tr key={kind} className="kind">
              <td>
                {open && !idle && (
                  <CheckboxField
                    name={`All ${kindLabels[kind]}`}
                    words={false}
                    checked={findings.chosen[kind] === total}
                    onChange={(on) => acts.act((press) => choose(run.id, { kind }, on, press))}
                    some={findings.chosen[kind] > 0 && findings.chosen[kind] < total}
                    disabled={acts.busy}
                  />
                )}
              </td>
              <td colSpan={2}>
                <b>
                  {total.toLocaleString()} {kindLabels[kind]}
                </b>
                {idle && <span className="muted"> left as they are</span>}
                {total > lines.length && <span className="muted">, the first {lines.length}</span>}
              </td>
            </tr>,
            ...lines.map(({ row, sku, name, changes, chosen, kind: what }) => (
              <tr key={row}>
                <td>
                  {open && !idle && (
                    <CheckboxField
                      name={`${sku}`}
                      words={false}
                      checked={chosen}
                      onChange={(on) => acts.act((press) => choose(run.id, { row }, on, press))}
                      disabled={acts.busy}
                    />
                  )}
                </td>
                <td className="mono">{sku}</td>
                <td style={{ maxWidth: 'none' }}>
                  {what === 'new' && (
                    <>
                      <span className="muted">row {row}</span> {name}
                    </>
                  )}
                  {changes.slice(0, 4).map(([attribute, before, after]) => (
                    <span key={attribute} style={{ marginRight: 12 }}>
                      <span className="muted">{labelOf(attribute)}</span>{' '}
                      {before && <mark className="gone">{before.slice(0, 40)}</mark>}{' '}
                      <mark className="new">{after.slice(0, 60)}</mark>
                    </span>
                  ))}
                  {changes.length > 4 && <span className="muted">and {changes.length - 4} more</span>}
                </td>
              </tr>
            )),
          ];
        })}
        {run.counts.new + run.counts.changed + run.counts.missing + run.counts.rejected === 0 && (
          <tr>
            <td className="tone-ready" colSpan={3}>
              Every row is as the catalog has it.
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
