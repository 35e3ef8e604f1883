'use client';
import { useDebouncedCallback } from '@mantine/hooks';
import { mergeIntoFamily } from '@/actions/catalog/families';
import { severityWords } from '@/core/checks/severity';
import type { Shown } from '@/core/families/shape';
import { counted } from '@/core/formatting/formatting';
import type { FamiliesStage, FamilyDetailView, Joinable } from '@/server/stages/families';
import { useDraft } from '../draft/useDraft';
import { FilterChips } from '../kit/display/FilterChips';
import { Empty } from '../kit/Empty';
import { useAddress } from '../kit/hooks/useAddress';
import { useCatalog } from '../kit/hooks/useCatalog';
import { SearchField, SelectField } from '../kit/inputs/inputs';
import { PromptButton } from '../kit/inputs/PromptButton';
import { Link } from '../kit/Link';
import { FamilyShape, mannerWords } from './FamilyShape';
import '../composition/composition.css';
import './familiesStage.css';

const singly = 'each variant as a listing of its own';

/** The Families stage: how the feed shows each family, its variants as a grid, and what should be seen to first. */
export function FamiliesStagePage({ stage }: { stage: FamiliesStage }) {
  const { query, go, withChange } = useAddress();
  const draft = useDraft();
  const search = useDebouncedCallback(
    (find: string) => go({ find: find || undefined, family: undefined }),
    200,
  );
  const requested = query.get('show');
  const show = requested === 'toShape' || requested === 'joinable' ? requested : 'all';
  const { current } = stage;
  if (stage.total === 0 && stage.joinable.length === 0)
    return (
      <Empty title="No families in this feed.">
        <span className="muted">
          A family groups the variants of one product. Create families in the catalog, from items without one.
        </span>
        <Link className="text" href="/families">
          Go to Families
        </Link>
      </Empty>
    );
  return (
    <>
      <div className="bench-head">
        <FilterChips
          options={[
            ['all', `All ${stage.total}`],
            ['toShape', `To complete ${stage.toShape}`],
            ['joinable', `Could be one family ${stage.joinable.length}`],
          ]}
          current={show}
          onPick={(key) =>
            go({ show: key === 'all' ? undefined : key, family: undefined, sample: undefined })
          }
        />
        <SearchField name="Find a family" start={query.get('find') ?? ''} onFind={search} width={150} />
        <SelectField
          name="shown as"
          shown="beside"
          value={stage.asOne && stage.feed === 'together' ? 'asOne' : stage.feed}
          options={
            stage.manner === 'none'
              ? [['together', mannerWords.none] as const]
              : [
                  ['together', mannerWords[stage.manner]] as const,
                  ...(stage.manner === 'singles'
                    ? ([['asOne', 'one listing per family, with the pictures of all variants']] as const)
                    : []),
                  ['singly', singly] as const,
                ]
          }
          onChange={(feed) =>
            void draft.save({
              edit: 'families',
              set: { feed: feed === 'asOne' ? 'together' : (feed as Shown), asOne: feed === 'asOne' },
            })
          }
        />
        {stage.joins && (
          <Link className="text" href={`/feeds/${draft.feed}/matching`} style={{ marginLeft: 'auto' }}>
            Match existing entries
          </Link>
        )}
      </div>
      {show === 'joinable' ? (
        <JoinList list={stage.joinable} />
      ) : (
        <div className={query.get('sample') ? 'shaping narrow' : 'shaping'} aria-busy={draft.busy}>
          <nav className="family-list" aria-label="Families of this feed">
            {stage.families.length === 0 && <Empty title="No family matches." />}
            {stage.families.map((one) => (
              <Link
                key={one.code}
                href={withChange({ family: one.code, sample: undefined })}
                scroll={false}
                aria-current={one.code === current?.code}
                className="family-line"
              >
                <b className="cut">{one.name}</b>
                <span className="small muted nowrap">
                  {one.shown === 'singly' ? `${one.members} singly` : `${one.ready} of ${one.members}`}
                </span>
                {one.faults[0] && (
                  <span className={`small clamp2 tone-${one.faults[0].severity}`}>{one.faults[0].words}</span>
                )}
              </Link>
            ))}
          </nav>
          {current ? <FamilyShape key={current.code} family={current} stage={stage} /> : <div />}
          {current && !query.get('sample') && <FamilySide family={current} />}
        </div>
      )}
    </>
  );
}

/** What the channel has of a family, and what is wrong with it. */
function FamilySide({ family }: { family: FamilyDetailView }) {
  const { withChange } = useAddress();
  return (
    <aside className="family-side" aria-label="On the channel">
      <h2>On the channel</h2>
      <dl>
        {[...family.onChannel, { label: 'Category', words: family.place || 'none' }].map(
          ({ label, words }) => (
            <div key={label}>
              <dt className="muted small">{label}</dt>
              <dd>{words}</dd>
            </div>
          ),
        )}
      </dl>
      <h2>Family issues</h2>
      {family.faults.length === 0 && family.blockers.length === 0 && (
        <p className="small muted">No issues.</p>
      )}
      <ul className="plain-list">
        {family.blockers.slice(0, 6).map(({ skus, words }) => (
          <li key={words}>
            <span className="tone-blocker">blocker</span>
            <span>
              {words}{' '}
              {skus.slice(0, 3).map((sku) => (
                <Link key={sku} className="mono muted" href={withChange({ sample: sku })} scroll={false}>
                  {sku}{' '}
                </Link>
              ))}
              {skus.length > 3 && <span className="muted small">and {skus.length - 3} more</span>}
            </span>
          </li>
        ))}
        {family.faults.map(({ severity, words }) => (
          <li key={words}>
            <span className={`tone-${severity}`}>{severityWords[severity]}</span>
            <span>{words}</span>
          </li>
        ))}
      </ul>
    </aside>
  );
}

/** Single listings that look like one family: what they share, and the family they could be. */
function JoinList({ list }: { list: readonly Joinable[] }) {
  const acts = useCatalog(undefined, false);
  if (list.length === 0)
    return (
      <Empty title="No single items look like one family.">
        <span className="muted">
          Items of one brand and category whose names differ only by a colour or size are listed here.
        </span>
      </Empty>
    );
  return (
    <div className="bench-body" aria-busy={acts.busy}>
      {list.map(({ skus, name, axes }: Joinable) => (
        <div key={skus[0]} className="joinable">
          <div className="grow">
            <b>{name}</b>
            <span className="small muted">
              {counted(skus.length, 'single listing')} of one brand and category, differing by{' '}
              {axes.join(' and ')}: <span className="mono">{skus.slice(0, 4).join(', ')}</span>
              {skus.length > 4 && ` and ${skus.length - 4} more`}
            </span>
          </div>
          <PromptButton
            label="Create a family from them"
            ask="Code of the family. SKUs, GTINs and texts stay."
            start={(skus[0] ?? '').replace(/[^-]*$/, '').replace(/-$/, '') || `${skus[0]}-FAMILY`}
            disabled={acts.busy}
            onAnswer={(code) => acts.run((press) => mergeIntoFamily({ skus: [...skus] }, code, press))}
          />
        </div>
      ))}
    </div>
  );
}
