'use client';
import { Button, FileButton } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import type { ExpectedView } from '@/server/evaluation/expectations';
import type { SavedDraft, VersionRow } from '@/server/plans/drafts';
import { useDraft } from '../draft/useDraft';
import { When } from '../kit/display/When';
import { Empty } from '../kit/Empty';
import { TextButton } from '../kit/inputs/TextButton';
import { Link } from '../kit/Link';
import { Expectations } from './Expectations';

interface HistoryProps {
  versions: readonly VersionRow[];
  /** Drafts that were left under a name. */
  left: readonly SavedDraft[];
  expected: readonly ExpectedView[];
  /** The merchant's categories, of which something may be expected. */
  categories: readonly string[];
  feed: string;
}

/** Published versions of a feed, bringing one back, and the plan as a JSON file. */
export function History({ versions, left, expected, categories, feed }: HistoryProps) {
  const draft = useDraft();
  const load = async (file: File | null) => {
    if (!file) return;
    const refuse = (reason: string) =>
      notifications.show({
        color: 'red',
        title: 'The plan was not loaded',
        message: `${reason} The draft stays as it is.`,
        autoClose: 9000,
      });
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
      notifications.show({ message: 'The plan is in the draft. Undo takes it back.' });
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
          <Empty title="Nothing has been published yet.">
            <span className="muted">
              Each time you publish, the whole plan is kept here and can be brought back.
            </span>
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
                      What it changed
                    </Link>
                  )}{' '}
                  {i > 0 && (
                    <Link
                      className="text small"
                      href={`/feeds/${feed}/differences?old=${version}&new=${versions[0]?.version}`}
                    >
                      Against now
                    </Link>
                  )}{' '}
                  {i === 0 ? (
                    <span className="muted">in force</span>
                  ) : (
                    <TextButton onClick={() => void draft.restore(version)}>
                      Bring back into the draft
                    </TextButton>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {left.length > 0 && (
          <section className="history-part" aria-label="Drafts left for later">
            <h2>Drafts left for later</h2>
            {left.map(({ name, at }) => (
              <div key={name} className="row">
                <b>{name}</b>
                <span className="muted small grow">
                  left <When at={at} />
                </span>
                <TextButton onClick={() => void draft.takeUp(name)}>Take it up again</TextButton>
              </div>
            ))}
          </section>
        )}
        <Expectations feed={feed} expected={expected} categories={categories} />
      </div>
    </>
  );
}
