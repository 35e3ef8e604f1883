'use client';
import { formatNumber } from '@/core/formatting/formatting';
import type { TitlesStage } from '@/server/stages/titles';
import { useDraft } from '../draft/useDraft';
import { useAddress } from '../kit/hooks/useAddress';
import './titles.css';
import { AutosaveTextField, SelectField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

/** Which listings the pattern is for: all of the feed, or those of a branch of the channel's tree. */
export function PatternOf({ stage }: { stage: TitlesStage }) {
  const { query, go } = useAddress();
  const draft = useDraft();
  const { branches, branch, patternOf } = stage;
  if (branches.length === 0) return null;
  const own = branches.filter((one) => one.own);
  const others = branches.filter((one) => !one.own);
  const option = ({ code, name, count }: TitlesStage['branches'][number]) =>
    [code, `${name} (${formatNumber(count)})`] as const;
  const put = (on: boolean) => branch && void draft.save({ edit: 'titleIn', branch: branch.code, own: on });
  return (
    <div className="row small">
      <SelectField
        name="Titles of"
        shown="beside"
        width={210}
        value={query.get('branch') ?? ''}
        options={[
          ['', 'the whole feed'] as const,
          ...(own.length > 0 ? [{ group: 'Categories with their own pattern', of: own.map(option) }] : []),
          { group: 'Categories of the channel', of: others.map(option) },
        ]}
        onChange={(code) => go({ branch: code || undefined, sample: undefined })}
      />
      {branch &&
        (patternOf?.code === branch.code ? (
          <TextButton onClick={() => put(false)}>Use the feed’s pattern again</TextButton>
        ) : (
          <>
            <span className="muted">{patternOf ? `as in ${patternOf.name}` : 'as in the whole feed'}</span>
            <TextButton onClick={() => put(true)}>Create a pattern for it</TextButton>
          </>
        ))}
    </div>
  );
}

/** The title of the item at hand: the pattern's, or one that is written by hand and stays. */
export function HandTitle({ current }: { current: NonNullable<TitlesStage['current']> }) {
  const draft = useDraft();
  const { sku, title, pattern, byHand } = current;
  const put = (text: string | undefined) =>
    void draft.save({
      edit: 'titleByHand',
      titles: { [sku]: text === undefined || text === pattern ? null : { text, instead: pattern } },
    });
  return (
    <section className="hand-title" aria-label="This title">
      <h2>This title</h2>
      <AutosaveTextField
        name="Written by hand"
        shown="above"
        needed
        width="100%"
        value={title}
        onSave={put}
      />
      {byHand === 'changed' && (
        <span className="small tone-risk">The item changed since. The pattern now gives “{pattern}”.</span>
      )}
      {byHand && (
        <span>
          <TextButton onClick={() => put(undefined)}>Use the pattern again</TextButton>
        </span>
      )}
    </section>
  );
}
