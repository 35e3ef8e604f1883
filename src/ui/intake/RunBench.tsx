'use client';
import { Button, Progress } from '@mantine/core';
import { useInterval } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import { beginRun, setForm, setMapping } from '@/app/actions';
import type { Attribute } from '@/core/catalog/attributes';
import { fromAttribute } from '@/core/compose/composition';
import type { Damage } from '@/core/intake/damage';
import { type ImportMapping, intakeSteps } from '@/core/intake/mapping';
import { damageWords } from '@/core/intake/repairs';
import type { RunPreview, RunRow } from '@/server/sources/sources';
import { LinkButton } from '../bench/LinkButton';
import './intake.css';

interface RunBenchProps {
  run: RunRow;
  preview: RunPreview | undefined;
  trouble: string | undefined;
  attributes: readonly Attribute[];
  rejections: readonly { row: number; reason: string }[];
}

const encodingNames = { 'utf-8': 'UTF-8', 'windows-1252': 'Windows-1252' } as const;
const separatorNames = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'vertical bar' } as const;

const columnOf = (mapping: ImportMapping, attribute: string): string | undefined => {
  const part = mapping.fields[attribute]?.alternatives[0]?.parts[0];
  return part && 'attribute' in part ? part.attribute : undefined;
};

/** Bringing in: columns to attributes with samples beside them, the items as they will be, dry run, run. */
export function RunBench({ run, preview, trouble, attributes, rejections }: RunBenchProps) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [share, setShare] = useState(0);
  const underWay = run.state === 'checking' || run.state === 'applying';
  const poll = useInterval(async () => {
    const answer = await fetch(`/api/runs/${run.id}`).then((response) => response.json());
    setShare(answer.share);
    if (answer.state !== run.state) router.refresh();
  }, 350);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the interval object is new at each render
  useEffect(() => {
    if (underWay) poll.start();
    else poll.stop();
    return poll.stop;
  }, [underWay, run.state]);
  const act = (work: () => Promise<{ ok: true } | { ok: false; words: string } | boolean>) =>
    startBusy(async () => {
      const answer = await work();
      if (typeof answer === 'object' && !answer.ok)
        notifications.show({ color: 'red', message: answer.words });
      router.refresh();
    });
  const locked = underWay || run.state === 'done';
  const byColumn = new Map(
    Object.keys(run.mapping.fields).flatMap((attribute) => {
      const column = columnOf(run.mapping, attribute);
      return column === undefined ? [] : [[column, attribute] as const];
    }),
  );
  const targets = [
    ...attributes.map(({ code, label, kind }) => ({ code, label, kind })),
    { code: 'family', label: 'Family', kind: 'identifier' as const },
  ];
  const match = (column: string, attribute: string) => {
    const fields = { ...run.mapping.fields };
    const before = byColumn.get(column);
    if (before) delete fields[before];
    if (attribute !== '')
      fields[attribute] = fromAttribute(
        column,
        intakeSteps(attributes.find(({ code }) => code === attribute)),
      );
    act(() => setMapping(run.id, { ...run.mapping, fields }));
  };
  const hasSku = run.mapping.fields.sku !== undefined;
  const { counts } = run;
  const shown = targets.filter(({ code }) => run.mapping.fields[code] !== undefined && code !== 'sku');
  return (
    <>
      <div className="intake-grid" aria-busy={busy}>
        <section aria-label="Columns">
          <div className="bench-head">
            <h2 className="grow">
              {byColumn.size} of {preview?.columns.length ?? 0} columns
            </h2>
            <label className="row small muted">
              Encoding
              <select
                className="cell"
                value={run.mapping.encoding}
                disabled={locked}
                onChange={(event) => act(() => setForm(run.id, event.target.value, run.mapping.separator))}
              >
                {Object.entries(encodingNames).map(([code, name]) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <label className="row small muted">
              Separator
              <select
                className="cell"
                value={run.mapping.separator}
                disabled={locked}
                onChange={(event) => act(() => setForm(run.id, run.mapping.encoding, event.target.value))}
              >
                {Object.entries(separatorNames).map(([code, name]) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
          </div>
          <div className="bench-body">
            {preview?.columns.map(({ name, samples }) => {
              const attribute = byColumn.get(name) ?? '';
              return (
                <div className="column-line" key={name}>
                  <span style={{ minWidth: 0 }}>
                    <b className="cut" style={{ display: 'block' }}>
                      {name}
                    </b>
                    <span className="samples cut" style={{ display: 'block' }}>
                      {samples.join(' · ') || 'always empty'}
                    </span>
                  </span>
                  <select
                    className="cell"
                    aria-label={`${name} becomes`}
                    value={attribute}
                    disabled={locked}
                    onChange={(event) => match(name, event.target.value)}
                  >
                    <option value="">leave out</option>
                    {targets.map(({ code, label }) => (
                      <option
                        key={code}
                        value={code}
                        disabled={code !== attribute && run.mapping.fields[code] !== undefined}
                      >
                        {code === 'sku' ? `${label} (the key)` : label}
                      </option>
                    ))}
                  </select>
                </div>
              );
            })}
          </div>
        </section>
        <section aria-label="Preview">
          <div className="bench-head">
            <h2 className="grow">
              {run.state === 'checked' || run.state === 'done'
                ? 'What the rows are'
                : 'The first items as they will be'}
            </h2>
          </div>
          {trouble && (
            <div className="empty" role="alert">
              <b className="tone-blocker">{trouble}</b>
            </div>
          )}
          {run.state === 'checked' && (run.repairs?.length ?? 0) > 0 && (
            <Repairs run={run} targets={targets} busy={busy} act={act} />
          )}
          <div className="preview">
            {(run.state === 'checked' || run.state === 'done') &&
              (counts.changed > 0 || counts.rejected > 0) && (
                <table>
                  <tbody>
                    {rejections.map(({ row, reason }) => (
                      <tr key={`r${row}`}>
                        <td className="muted">row {row}</td>
                        <td className="tone-blocker">rejected</td>
                        <td style={{ maxWidth: 'none' }}>{reason}</td>
                      </tr>
                    ))}
                    {run.examples.map((example) => (
                      <tr key={example.sku}>
                        <td className="muted">row {example.row}</td>
                        <td>
                          <span className="mono">{example.sku}</span>
                        </td>
                        <td style={{ maxWidth: 'none' }}>
                          {example.changes.slice(0, 4).map(([attribute, before, after]) => (
                            <span key={attribute} style={{ marginRight: 12 }}>
                              <span className="muted">
                                {targets.find(({ code }) => code === attribute)?.label ?? attribute}
                              </span>{' '}
                              {before && <mark className="gone">{before.slice(0, 40)}</mark>}{' '}
                              <mark className="new">{after.slice(0, 60)}</mark>
                            </span>
                          ))}
                          {example.changes.length > 4 && (
                            <span className="muted">and {example.changes.length - 4} more</span>
                          )}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              )}
            {preview && (
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
            )}
          </div>
        </section>
      </div>
      <div className="run-bar" role="status">
        {underWay && (
          <>
            <span>
              {run.state === 'checking' ? 'Checking every row; nothing is changed' : 'Bringing items in'}
            </span>
            <Progress value={share * 100} style={{ width: 220 }} aria-label="Progress" />
            <span className="muted">{Math.round(share * 100)} %</span>
          </>
        )}
        {run.state === 'failed' && <span className="tone-blocker">{run.error}</span>}
        {(run.state === 'checked' || run.state === 'done') && (
          <>
            <span className="tone-ready">
              <b>{counts.new.toLocaleString()}</b> new
            </span>
            <span>
              <b>{counts.changed.toLocaleString()}</b> changed
            </span>
            <span className="muted">
              <b>{counts.unchanged.toLocaleString()}</b> unchanged
            </span>
            <span className={counts.rejected > 0 ? 'tone-blocker' : 'muted'}>
              <b>{counts.rejected.toLocaleString()}</b> rejected
            </span>
            {counts.rejected > 0 && (
              <a className="text small" href={`/api/runs/${run.id}/rejected`} download>
                Download them with reasons
              </a>
            )}
          </>
        )}
        {run.state === 'uploaded' && !hasSku && (
          <span className="tone-blocker">
            Choose the column that holds the SKU: it is how an item is found again.
          </span>
        )}
        {run.state === 'uploaded' && hasSku && (
          <span className="muted">Check every row first; nothing is changed by it.</span>
        )}
        <span className="acts">
          {!locked && run.state !== 'checked' && (
            <Button
              disabled={!hasSku || busy || trouble !== undefined}
              onClick={() => act(() => beginRun(run.id, false))}
            >
              Check all rows
            </Button>
          )}
          {run.state === 'checked' && (
            <Button
              disabled={busy || counts.new + counts.changed === 0}
              onClick={() => act(() => beginRun(run.id, true))}
            >
              {counts.new + counts.changed === 0
                ? 'Nothing to bring in'
                : `Bring in ${(counts.new + counts.changed).toLocaleString()} ${counts.new + counts.changed === 1 ? 'item' : 'items'}`}
            </Button>
          )}
          {run.state === 'done' && (
            <>
              <Link className="text" href="/sources">
                Bring in another file
              </Link>
              <LinkButton href="/">See the board</LinkButton>
            </>
          )}
        </span>
      </div>
    </>
  );
}

interface RepairsProps {
  run: RunRow;
  targets: readonly { code: string; label: string }[];
  busy: boolean;
  act(work: () => Promise<{ ok: true } | { ok: false; words: string } | boolean>): void;
}

/** Damage found while checking: each kind is accepted or refused as a group, and the file is checked again with it. */
function Repairs({ run, targets, busy, act }: RepairsProps) {
  const accepted = run.mapping.repairs ?? [];
  const toggle = (damage: Damage) => {
    const repairs = accepted.includes(damage)
      ? accepted.filter((one) => one !== damage)
      : [...accepted, damage];
    act(async () => {
      const saved = await setMapping(run.id, { ...run.mapping, repairs });
      return saved.ok ? beginRun(run.id, false) : saved;
    });
  };
  return (
    <section className="repairs" aria-label="Repairs proposed">
      <h2>Damage found; repaired only where you accept it</h2>
      {run.repairs?.map(({ damage, attribute, count, repairable, examples: [first] }) => (
        <label key={damage + attribute} className="repair">
          <input
            type="checkbox"
            checked={accepted.includes(damage)}
            disabled={busy || repairable === 0}
            onChange={() => toggle(damage)}
          />
          <span>
            <b>
              {count} {targets.find(({ code }) => code === attribute)?.label ?? attribute}
            </b>{' '}
            {damageWords[damage]}
            {repairable < count && (
              <span className="tone-blocker">, {count - repairable} beyond repair: ask the sender</span>
            )}
            {first && (
              <span className="small muted" style={{ display: 'block' }}>
                <mark className="gone">{first.from.slice(0, 40)}</mark>{' '}
                {first.to !== null && <mark className="new">{first.to.slice(0, 40)}</mark>} {first.reason}
              </span>
            )}
          </span>
        </label>
      ))}
    </section>
  );
}
