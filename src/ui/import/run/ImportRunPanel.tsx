'use client';
import { startImport } from '@/actions/import';
import { formatNumber } from '@/core/formatting/formatting';
import type { Damage } from '@/core/import/mapping/damage';
import { damageWords } from '@/core/import/mapping/repairs';
import { useOpen } from '../../kit/hooks/useOpen';
import { CheckboxField } from '../../kit/inputs/inputs';
import { FeedEffects } from './FeedEffects';
import { Changes } from './ImportChanges';
import { Families } from './ImportFamilies';
import type { RunSideProps } from './runFindings';

const tabNames = {
  items: 'Items',
  families: 'Families',
  damage: 'Damage',
  changes: 'Changes',
  feeds: 'Feeds',
} as const;
type Tab = keyof typeof tabNames;

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
      <div className="bench-head" role="tablist" aria-label="Result of the import">
        {(Object.keys(tabNames) as Tab[]).map((one) => (
          <button
            key={one}
            type="button"
            role="tab"
            className="filter"
            aria-selected={tab === one}
            onClick={() => setOpen(one)}
          >
            {tabNames[one]} {figures[one] === undefined ? '' : formatNumber(figures[one])}
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

function Damages({ run, targets, acts }: RunSideProps) {
  const accepted = acts.mapping.repairs ?? [];
  const toggle = (damage: Damage) => {
    acts.change({ edit: 'repair', damage, accepted: !accepted.includes(damage) });
    acts.act((press) => startImport(run.id, 'check', press));
  };
  if (!run.repairs || run.state === 'uploaded')
    return <p className="side-pad muted">Check all rows to find damage by spreadsheets and encodings.</p>;
  if (run.repairs.length === 0) return <p className="side-pad tone-ready">No damage was found.</p>;
  return (
    <section className="repairs" aria-label="Suggested repairs">
      <h2>Damage found; a repair is used only if you accept it</h2>
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
                  <span className="tone-blocker">
                    , {count - repairable} no repair possible: ask the supplier
                  </span>
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
