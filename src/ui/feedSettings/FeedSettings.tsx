'use client';
import { Button } from '@mantine/core';
import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useState, useTransition } from 'react';
import { letItemsJoin } from '@/actions/catalog/items';
import { copyFeed, deleteFeed, previewCopy } from '@/actions/feeds';
import type { Condition } from '@/core/conditions/conditions';
import { counted, formatNumber } from '@/core/formatting/formatting';
import type { SettingsStage } from '@/server/stages/settings';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { useDraft } from '../draft/useDraft';
import { languageName, regionName } from '../frame/stageNames';
import { Link } from '../kit/Link';
import { showRefusal } from '../kit/refusals';
import { Prerequisite, ProofOf } from './Prerequisites';
import './feedSettings.css';
import { useCatalog } from '../kit/hooks/useCatalog';
import { DeleteButton } from '../kit/inputs/DeleteButton';
import { SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

/** Which items a feed takes, what the channel wants of the merchant first, and copies of the feed for other markets. */
export function FeedSettings({
  stage,
  feed,
  children,
}: {
  stage: SettingsStage;
  feed: string;
  children?: ReactNode;
}) {
  return (
    <div className="feed-settings">
      <Scope stage={stage} />
      {stage.waiting.length > 0 && <Waiting stage={stage} feed={feed} />}
      <Conditions stage={stage} />
      {children}
      {stage.translated.length > 0 && <Translations stage={stage} />}
      <Copy stage={stage} feed={feed} />
      <Removal stage={stage} feed={feed} />
    </div>
  );
}

function Removal({ stage: { dependents }, feed }: { stage: SettingsStage; feed: string }) {
  const { versions, submissions, atChannel, underWay } = dependents;
  return (
    <section aria-label="Delete this feed">
      <h2>Delete this feed</h2>
      <p className="muted">
        {counted(versions, 'published version')}, {counted(submissions, 'submission')} and its settings are
        deleted.{' '}
        {atChannel > 0
          ? `Listings that stay at the channel: ${atChannel}. Withdraw them first if they should go, too.`
          : 'The channel has no listings of this feed.'}
      </p>
      {underWay && <p className="tone-risk">A submission is in progress or held for review. End it first.</p>}
      <DeleteButton
        label="Delete this feed"
        words={`${counted(versions, 'version')} and ${counted(submissions, 'submission')} are deleted; ${counted(atChannel, 'listing')} stay at the channel.`}
        type={feed}
        act={() => deleteFeed(feed)}
        then="/"
      />
    </section>
  );
}

/** Scopes that most feeds want, in one click. */
const usual: readonly { words: string; scope: Condition }[] = [
  { words: 'Only items of families', scope: { attribute: 'family', is: 'filled' } },
  { words: 'Only items without variants', scope: { attribute: 'family', is: 'empty' } },
  {
    words: 'Only what is in stock',
    scope: { attribute: 'availability', is: 'equals', value: 'InStock' },
  },
];

function Scope({ stage }: { stage: SettingsStage }) {
  const draft = useDraft();
  const save = (scope: Condition | null) => void draft.save({ edit: 'scope', scope });
  return (
    <section aria-label="Scope" aria-busy={draft.busy}>
      <h2>
        Scope: {stage.taken} of {stage.total} items
      </h2>
      <p className="muted">Categories and rules can exclude further items. The scope comes first.</p>
      {stage.scope ? (
        <div className="scope">
          <ConditionEditor
            word="where"
            condition={stage.scope}
            attributes={stage.attributes}
            fields={[]}
            onChange={save}
          />
          <TextButton onClick={() => save(null)}>Include all items</TextButton>
        </div>
      ) : (
        <div className="row">
          <Button variant="default" onClick={() => save({ all: [{ attribute: 'brand', is: 'filled' }] })}>
            Limit the scope
          </Button>
          {usual.map(({ words, scope }) => (
            <TextButton key={words} onClick={() => save(scope)}>
              {words}
            </TextButton>
          ))}
        </div>
      )}
    </section>
  );
}

/** New items that do not join the feed yet. */
function Waiting({ stage, feed }: { stage: SettingsStage; feed: string }) {
  const catalog = useCatalog(undefined, false);
  const total = stage.waiting.reduce((sum, { count }) => sum + count, 0);
  return (
    <section aria-label="New items waiting" aria-busy={catalog.busy}>
      <h2 className="tone-risk">{counted(total, 'new item')} held for this feed</h2>
      <p className="muted">
        Their source does not add new items to this feed by itself. Add them to check and send them.
      </p>
      <ul className="lines">
        {stage.waiting.map(({ source, count }) => (
          <li key={source} className="row">
            <span>
              {counted(count, 'item')} of {source || 'an unknown source'}
            </span>
            <Link
              className="text"
              href={`/items?${new URLSearchParams({ columns: 'sku,name,source,waitsFor', 'f.waitsFor': feed })}`}
            >
              Show them
            </Link>
            <TextButton
              onClick={() => catalog.run((press) => letItemsJoin(feed, source, press))}
              disabled={catalog.busy}
            >
              Add {counted(count, 'item')}
            </TextButton>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Conditions({ stage }: { stage: SettingsStage }) {
  const open = stage.conditions.filter(({ met }) => !met);
  return (
    <section aria-label="Prerequisites of the channel">
      <h2 className={open.length > 0 ? 'tone-risk' : ''}>
        {stage.conditions.length === 0
          ? 'The channel has no prerequisites'
          : open.length === 0
            ? 'All prerequisites are met'
            : `${open.length} of ${stage.conditions.length} prerequisites are not met`}
      </h2>
      {stage.conditions.map(({ code, label, words, met, listings, proof, ended }) => (
        <div key={code}>
          <Prerequisite what={code} met={met}>
            <b>{label}</b>: {words}
            {listings !== undefined && (
              <span className={met ? 'muted' : 'tone-blocker'}>
                {' '}
                ({counted(listings, 'listing needs', 'listings need')} it)
              </span>
            )}
          </Prerequisite>
          {(met || ended) && <ProofOf what={code} proof={proof} ended={ended} />}
        </div>
      ))}
    </section>
  );
}

/** What stands in the feed where a text has no translation into its language. */
function Translations({ stage }: { stage: SettingsStage }) {
  const draft = useDraft();
  const language = languageName(stage.language);
  const missing = stage.translated.filter(({ lacking }) => lacking > 0);
  return (
    <section aria-label="Translations" aria-busy={draft.busy}>
      <h2 className={missing.length > 0 ? 'tone-risk' : ''}>
        {missing.length > 0 ? `Some texts are missing in ${language} yet` : `All texts are in ${language}`}
      </h2>
      {missing.map(({ code, label, lacking, items }) => (
        <p key={code}>
          <b>{label}</b>: {formatNumber(lacking)} of {counted(items, 'item')} lack it
        </p>
      ))}
      <div className="row">
        <span className="muted">If there is none</span>
        <SelectField
          name="Without a translation"
          value={stage.untranslated}
          options={[
            ['main', 'use the main language'],
            ['nothing', 'leave it empty'],
          ]}
          onChange={(to) => void draft.save({ edit: 'untranslated', to: to as 'main' | 'nothing' })}
        />
      </div>
    </section>
  );
}

function Copy({ stage, feed }: { stage: SettingsStage; feed: string }) {
  const router = useRouter();
  const [busy, startBusy] = useTransition();
  const [at, setAt] = useState(0);
  const [seen, setSeen] = useState<{ carried: readonly string[]; left: readonly string[] }>();
  const market = stage.free[at];
  useEffect(() => {
    let stale = false;
    setSeen(undefined);
    if (!market) return;
    const { channel, country, language } = market;
    void previewCopy(feed, { channel, country, language }).then((answer) => {
      if (!stale && answer.ok) setSeen(answer);
    });
    return () => {
      stale = true;
    };
  }, [market, feed]);
  if (!market) return null;
  const copy = () =>
    startBusy(async () => {
      const { channel, country, language } = market;
      const answer = await copyFeed(feed, { channel, country, language });
      if (answer.ok) router.push(`/feeds/${answer.feed}/fields`);
      else showRefusal(answer.words);
    });
  return (
    <section aria-label="Copy this feed to another market">
      <h2>Copy this feed to another market</h2>
      <div className="row">
        <SelectField
          name="Market of the new feed"
          value={String(at)}
          options={stage.free.map(
            (one, i) =>
              [
                String(i),
                `${one.name}, ${regionName(one.country)}, ${languageName(one.language)}, ${one.currency}`,
              ] as const,
          )}
          onChange={(text) => setAt(Number(text))}
        />
        <Button disabled={busy || !seen} onClick={copy}>
          Create feed
        </Button>
        <Link className="text" href="/channels">
          Or start with an empty feed
        </Link>
      </div>
      {seen && (
        <div className="carried">
          <span>
            <b className="tone-ready">Copied:</b> {seen.carried.join('; ') || 'nothing'}
          </span>
          {seen.left.length > 0 && (
            <span>
              <b className="tone-risk">To do by hand:</b> {seen.left.join('; ')}
            </span>
          )}
        </div>
      )}
    </section>
  );
}
