'use client';
import type { CheckGroup } from '@/server/fixes/checkGroups';
import type { ChecksStage } from '@/server/stages/checks';
import { useAddress } from '../kit/hooks/useAddress';
import { useKeepPrevious } from '../kit/hooks/useKeepPrevious';
import { LinkButton } from '../kit/LinkButton';
import { SuggestedFix } from './SuggestedFix';

/** How the fix at hand is carried out: in place where that is possible, else a way to the place. */
export function OpenFix({
  fix,
  stage,
  failed,
  onDone,
}: {
  fix: CheckGroup;
  stage: ChecksStage;
  failed: boolean;
  onDone(words: string): void;
}) {
  const { path } = useAddress();
  const base = path.replace(/\/checks$/, '');
  const coming = stage.later && !failed;
  const view = useKeepPrevious(fix.key, stage.proposed, coming);
  if (view)
    return (
      <SuggestedFix
        key={fix.key}
        view={view}
        title={fix.title}
        outdated={stage.proposed === undefined}
        onDone={onDone}
      />
    );
  if (coming)
    return (
      <div className="fix" role="status">
        <h2>{fix.title}</h2>
        <p className="small muted">Calculating suggested fixes …</p>
      </div>
    );
  const [href, words] =
    fix.stage === 'categories'
      ? [`${base}/categories?show=toPlace`, 'Map the categories']
      : fix.stage === 'titles'
        ? [`${base}/titles`, 'Edit the title pattern']
        : fix.stage === 'rules'
          ? [`${base}/rules`, 'See the rules']
          : [
              `${base}/fields?field=${fix.field}`,
              fix.stage === 'fields' ? 'Map the field' : 'See the field’s source',
            ];
  return (
    <div className="fix">
      <div className="row">
        <h2 className="grow">{fix.title}</h2>
        <LinkButton href={href}>{words}</LinkButton>
      </div>
      {failed && (
        <span className="small tone-risk" role="alert">
          No fix could be calculated. Reload the page to try again, or edit the values yourself.
        </span>
      )}
      {fix.stage === 'rules' && (
        <span className="small muted">
          A rule asks for a review of these listings. Review them, then waive the issue below for the listings
          shown. Filter the list to waive it for fewer.
        </span>
      )}
      {fix.stage === 'items' && (
        <span className="small muted">Click an item, then its name, to edit its value.</span>
      )}
    </div>
  );
}
