'use client';
import { Button, FileButton } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import type { ExpectedView, PresentFigures } from '@/server/evaluation/expectations';
import type { SavedDraft, VersionRow } from '@/server/plans/drafts';
import { useDraft } from '../draft/useDraft';
import { When } from '../kit/display/When';
import { Empty } from '../kit/Empty';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { showRefusal } from '../kit/refusals';
import { Expectations } from './Expectations';

interface HistoryProps {
  versions: readonly VersionRow[];
  /** Drafts that were set aside under a name. */
  setAside: readonly SavedDraft[];
  expected: readonly ExpectedView[];
  /** Where new expectations start from; undefined where the feed cannot be calculated. */
  present?: PresentFigures | undefined;
  feed: string;
}

/** Published versions of a feed, bringing one back, and the plan as a JSON file. */
export function History({ versions, setAside, expected, present, feed }: HistoryProps) {
  const draft = useDraft();
  const load = async (file: File | null) => {
    if (!file) return;
    const refuse = (reason: string) =>
      showRefusal(`The plan was not loaded. ${reason} The draft stays as it is.`);
    let json: unknown;
    try {
      json = JSON.parse(await file.text());
    } catch {
      return refuse('The file is not JSON.');
    }
    // Asked for here only: what a plan is made of is much to load with every page.
    const { planSchema } = await import('@/core/plans/plan');
    const plan = planSchema.safeParse(json);
    if (!plan.success)
      return refuse(
        `It is not valid at ${plan.error.issues[0]?.path.join('.') || 'its root'}: ${plan.error.issues[0]?.message}.`,
      );
    if (await draft.save({ edit: 'plan', plan: plan.data }))
      notifications.show({ message: 'The plan is in the draft. Undo reverts it.' });
  };
  return (
    <>
      <div className="bench-head">
        <h2 className="grow">Published versions</h2>
        <a className="text" href={`/api/feeds/${feed}/plan`} download>
          Save the draft plan as JSON
        </a>
        <FileButton accept="application/json,.json" onChange={(file) => void load(file)}>
          {(props) => (
            <Button variant="default" {...props} ml={8}>
              Load a plan
            </Button>
          )}
        </FileButton>
      </div>
      <div className="bench-body">
        {versions.length === 0 && (
          <Empty title="Nothing published yet.">
            <span className="muted">Each published version is stored here and can be restored.</span>
          </Empty>
        )}
        <table className="plain">
          <tbody>
            {versions.map(({ version, publishedAt, words }, i) => (
              <tr key={version}>
                <td style={{ width: 100 }}>
                  <b>Version {version}</b>
                </td>
                <td style={{ width: 160 }} className="muted">
                  <When at={publishedAt} />
                </td>
                <td>{words}</td>
                <td className="nowrap" style={{ textAlign: 'right' }}>
                  {versions[i + 1] && (
                    <Link
                      className="text small"
                      href={`/feeds/${feed}/differences?old=${versions[i + 1]?.version}&new=${version}`}
                    >
                      Changes
                    </Link>
                  )}{' '}
                  {i > 0 && (
                    <Link
                      className="text small"
                      href={`/feeds/${feed}/differences?old=${version}&new=${versions[0]?.version}`}
                    >
                      Compare with now
                    </Link>
                  )}{' '}
                  {i === 0 ? (
                    <span className="muted">current</span>
                  ) : (
                    <TextButton onClick={() => void draft.restore(version)}>
                      Restore into the draft
                    </TextButton>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {setAside.length > 0 && (
          <section className="history-part" aria-label="Drafts set aside">
            <h2>Drafts set aside</h2>
            {setAside.map(({ name, at }) => (
              <div key={name} className="row">
                <b>{name}</b>
                <span className="muted small grow">
                  set aside <When at={at} />
                </span>
                <TextButton onClick={() => void draft.takeUp(name)}>Resume</TextButton>
              </div>
            ))}
          </section>
        )}
        <Expectations feed={feed} expected={expected} present={present} />
      </div>
    </>
  );
}
