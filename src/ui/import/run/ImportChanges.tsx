'use client';
import { choose, startImport } from '@/actions/import';
import { formatNumber, plural } from '@/core/formatting/formatting';
import { CheckboxField } from '../../kit/inputs/inputs';
import { TextButton } from '../../kit/inputs/TextButton';
import type { RunSideProps } from './runFindings';
import type { RunActs } from './useImportRun';

/** Attributes of which a run keeps, or overwrites, what a person mended by hand. */
function keptValuesOf(run: RunSideProps['run'], acts: RunActs): [string, number][] {
  const blocked = run.held ?? {};
  const requested = (acts.mapping.overwrite ?? []).filter((code) => blocked[code] === undefined);
  return [...Object.entries(blocked), ...requested.map((code): [string, number] => [code, 0])];
}

const kindLabels = { new: 'new', changed: 'changed', missing: 'missing from the file' } as const;

export function Changes({ run, findings, targets, acts }: RunSideProps) {
  const labelOf = (code: string) => targets.find((one) => one.code === code)?.label ?? code;
  if (run.state === 'uploaded')
    return <p className="side-pad muted">Check all rows to see new, changed and rejected rows.</p>;
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
                ? 'replaced by the file, also where it was edited by hand'
                : `${count} edited by hand ${plural(count, 'stays', 'stay')} although the file differs`}
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
                  {acts.mapping.overwrite?.includes(attribute) ? 'Keep mine' : 'Use the file’s value'}
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
                  {formatNumber(total)} {kindLabels[kind]}
                </b>
                {idle && <span className="muted"> unchanged</span>}
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
              Every row equals the catalog.
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
