'use client';
import { changeDestination } from '@/actions/sending';
import { type Setting, settingsOf, withSetting } from '@/core/forms/forms';
import { limitsSchema } from '@/core/ledger/review';
import type { DestinationView } from '@/server/submissions/destinations';
import { Choice, SavedWords } from '../kit/inputs';
import { Settings } from '../kit/Settings';
import { TextButton } from '../kit/TextButton';
import { useDoing } from '../send/useDoing';

const limits = settingsOf(limitsSchema, ['refused']);
const told = settingsOf(limitsSchema).filter(({ name }) => name === 'refused');

/** Where a feed goes, and from where on a submission is held back to be looked at. */
export function Destination({
  feed,
  to,
  manner,
}: {
  feed: string;
  to: DestinationView;
  manner: 'fetched' | 'byHand' | 'other';
}) {
  const doing = useDoing();
  const change = (edit: Parameters<typeof changeDestination>[2]) =>
    doing.run(changeDestination(feed, to.revision, edit));
  const setLimit = (setting: Setting, text: string) => {
    const value = (withSetting({}, setting, text) as Record<string, unknown>)[setting.name];
    if (typeof value === 'number')
      change({ set: 'limit', limit: setting.name as keyof typeof to.limits, value });
  };
  return (
    <section aria-label="Where it goes" aria-busy={doing.busy}>
      <h2>Where it goes</h2>
      {manner === 'byHand' ? (
        <p className="muted">
          Nothing takes this channel’s files by itself: they are uploaded there by hand.
        </p>
      ) : (
        <>
          <div className="row">
            <SavedWords
              name="Address of the channel"
              shown="beside"
              value={to.address}
              placeholder={to.standin}
              width={380}
              mono
              onSave={(address) => change({ set: 'address', address })}
            />
            <span className="small muted">{to.address === '' && 'the simulated channel'}</span>
          </div>
          <div className="row">
            <SavedWords
              name="Credential"
              shown="beside"
              type="password"
              value=""
              placeholder={to.hasCredential ? 'kept, encrypted' : 'none'}
              width={220}
              onSave={(credential) => change({ set: 'credential', credential })}
            />
            {to.hasCredential && (
              <TextButton onClick={() => change({ set: 'credential', credential: '' })}>Forget it</TextButton>
            )}
          </div>
        </>
      )}
      {manner === 'fetched' && (
        <p>
          The channel fetches at <span className="mono">{to.fetchAt}</span>{' '}
          <TextButton onClick={() => change({ set: 'token' })}>Make another address</TextButton>
          <span className="small muted"> The old one stops at once.</span>
        </p>
      )}
      <div className="row">
        <span className="muted">A listing that is blocked and that the channel has</span>
        <Choice
          name="What is blocked"
          value={to.ofBlocked}
          options={[
            ['leave', 'stays there as it is'],
            ['withdraw', 'is taken back'],
          ]}
          onChange={(ofBlocked) => change({ set: 'ofBlocked', ofBlocked })}
        />
      </div>
      <span className="muted">A submission is held back to be looked at beyond</span>
      <div className="row" style={{ flexWrap: 'wrap' }}>
        <Settings of="Held back" settings={limits} values={to.limits} onSet={setLimit} />
      </div>
      <div className="row">
        <Settings of="Notice" settings={told} values={to.limits} onSet={setLimit} />
      </div>
    </section>
  );
}
