'use client';
import { Button } from '@mantine/core';
import type { Shown } from '@/core/families/shape';
import { counted } from '@/core/formatting/formatting';
import type { FamiliesStage, FamilyDetailView } from '@/server/stages/families';
import { useDraft } from '../draft/useDraft';
import { useAddress } from '../kit/hooks/useAddress';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { Picture } from '../kit/Picture';
import '../composition/composition.css';
import './familiesStage.css';

export const mannerWords: Readonly<Record<FamiliesStage['manner'], string>> = {
  leads: 'parent and variants',
  singles: 'single listings with a shared group code',
  oneEntry: 'one listing per family',
  none: 'single listings',
};

export function FamilyShape({ family, stage }: { family: FamilyDetailView; stage: FamiliesStage }) {
  const draft = useDraft();
  const { withChange, query } = useAddress();
  const choose = (shown: Shown | null) =>
    void draft.save({ edit: 'families', set: { families: { [family.code]: shown } } });
  const apart = family.axes.filter((axis) => axis.apart).map(({ attribute }) => attribute);
  return (
    <section className="family-shape" aria-label={family.name}>
      <div className="lead">
        <Picture file={family.lead.picture} name={family.name} size={54} />
        <div>
          <span className="small muted">
            {family.shown === 'singly'
              ? 'Listed singly'
              : stage.manner === 'leads'
                ? 'Parent, not for sale itself'
                : mannerWords[stage.manner]}
          </span>
          <b>{family.lead.title || family.name}</b>
          <span className="small muted">{family.lead.words}</span>
        </div>
      </div>
      <div className="varies">
        <span className="small muted">Varies by</span>
        {family.axes.length === 0 && <span className="tone-risk small">not mapped</span>}
        {family.axes.map((axis) => (
          <span key={axis.attribute} className="axis">
            <span className="chip attribute">{axis.label}</span>
            <span className="small muted">as</span>
            {axis.fields.length > 0 ? (
              axis.fields.slice(0, 2).map((field) => (
                <span key={field} className={axis.allowed ? 'chip text' : 'chip text absent'}>
                  {field}
                </span>
              ))
            ) : (
              <span className={axis.inTitle ? 'small' : 'small tone-risk'}>
                {axis.inTitle ? 'words in the title' : 'not sent'}
              </span>
            )}
            {!axis.allowed && (
              <TextButton
                onClick={() =>
                  void draft.save({
                    edit: 'families',
                    set: {
                      apart: axis.apart
                        ? apart.filter((one) => one !== axis.attribute)
                        : [...apart, axis.attribute],
                    },
                  })
                }
              >
                {axis.apart ? 'grouped by the channel' : 'one family per value'}
              </TextButton>
            )}
          </span>
        ))}
        {family.allowed && (
          <span className="small muted allowed">
            {family.allowed.branch} {family.allowed.fields.length > 0 ? 'allows' : 'allows no axis'}{' '}
            {family.allowed.fields.join(', ')}
          </span>
        )}
      </div>
      <div className="scrolling">
        <table className="variants">
          <thead>
            <tr>
              <th>
                {family.axes.map(({ label }) => label).join(' ↓ ')}
                {family.axes.length > 1 ? ' →' : ''}
              </th>
              {family.across.map((value) => (
                <th key={value}>{value || (family.axes.length > 1 ? '(none)' : '')}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {family.down.map(({ words, theirs, cells }) => (
              <tr key={words}>
                <th scope="row">
                  {words}
                  {theirs && <span className="small muted">their {theirs}</span>}
                </th>
                {cells.map((list, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: columns stay where they are
                  <td key={at}>
                    {list.length === 0 && <span className="small muted">missing</span>}
                    {list.map((cell) => (
                      <Link
                        key={cell.sku}
                        className="variant"
                        href={withChange({ sample: cell.sku })}
                        scroll={false}
                        aria-current={query.get('sample') === cell.sku}
                        title={`${cell.title} · ${cell.sku}`}
                      >
                        <Picture file={cell.picture} name={cell.title || cell.sku} size={32} />
                        <span>
                          <b className={cell.state === 'ready' ? 'tone-ready' : 'tone-blocker'}>
                            {cell.state}
                          </b>
                          <span className="small muted cut">{cell.words}</span>
                        </span>
                      </Link>
                    ))}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="row family-acts">
        {family.gaps > 0 && (
          <Button component={Link} variant="default" href={`/families/${encodeURIComponent(family.code)}`}>
            Add {counted(family.gaps, 'missing variant')}
          </Button>
        )}
        {stage.manner !== 'none' &&
          (family.shown === 'together' ? (
            <Button variant="default" onClick={() => choose('singly')}>
              List variants singly here
            </Button>
          ) : (
            <Button
              variant="default"
              onClick={() => choose(family.chosenBy === 'family' ? null : 'together')}
            >
              List it as one family
            </Button>
          ))}
        {stage.manner !== 'none' && family.branch && family.chosenBy !== 'family' && (
          <TextButton
            onClick={() =>
              void draft.save({
                edit: 'families',
                set: {
                  branches: {
                    [family.branch?.code ?? '']:
                      family.chosenBy === 'branch'
                        ? null
                        : family.shown === 'together'
                          ? 'singly'
                          : 'together',
                  },
                },
              })
            }
          >
            {family.chosenBy === 'branch'
              ? `Default of ${family.branch.name}`
              : `All of ${family.branch.name} ${family.shown === 'together' ? 'singly' : 'together'}`}
          </TextButton>
        )}
        <Link className="text small" href={`/families/${encodeURIComponent(family.code)}`}>
          Open in the catalog
        </Link>
      </div>
    </section>
  );
}
