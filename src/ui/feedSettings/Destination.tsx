'use client';
import { changeDestination } from '@/actions/submissions';
import { type TransportKind, transportFacts } from '@/core/channels/transports';
import { type Setting, settingsOf, withSetting } from '@/core/forms/forms';
import { type LimitName, limitsSchema } from '@/core/ledger/review';
import type { DestinationView } from '@/server/transports/destinations';
import { useAction } from '../kit/hooks/useAction';
import { useRevised } from '../kit/hooks/useRevised';
import { AutosaveTextField, SelectField } from '../kit/inputs/inputs';
import { Settings } from '../kit/inputs/Settings';
import { TextButton } from '../kit/inputs/TextButton';

const limits = settingsOf(limitsSchema, ['refused']);
const reported = settingsOf(limitsSchema).filter(({ name }) => name === 'refused');

/** Where a feed goes, and from where on a submission is held back to be looked at. */
export function Destination({
  feed,
  to,
  transport,
}: {
  feed: string;
  to: DestinationView;
  transport: TransportKind;
}) {
  const doing = useAction();
  const { automatic, published } = transportFacts[transport];
  const revised = useRevised(to.revision, doing);
  const change = (edit: Parameters<typeof changeDestination>[2]) =>
    revised((revision) => changeDestination(feed, revision, edit));
  const setLimit = (setting: Setting, text: string) => {
    const value = (withSetting({}, setting, text) as Record<string, unknown>)[setting.name];
    if (typeof value === 'number') change({ set: 'limit', limit: setting.name as LimitName, value });
  };
  return (
    <section aria-label="Destination" aria-busy={doing.busy}>
      <h2>Destination</h2>
      {!automatic ? (
        <p className="muted">This channel takes files by hand: upload the file there.</p>
      ) : (
        <>
          {!published && (
            <div className="row">
              <span className="muted">Send to</span>
              <SelectField
                name="Account"
                value={to.testing ? 'test' : 'live'}
                options={[
                  ['live', 'live account'],
                  ['test', 'test account'],
                ]}
                onChange={(account) => change({ set: 'testing', on: account === 'test' })}
              />
              {to.testing && (
                <span className="small muted">
                  Results are shown, and the schedule is off. Shoppers see no change.
                </span>
              )}
            </div>
          )}
          <Endpoint
            of=""
            address={to.address}
            simulator={to.simulator}
            simulated="the simulated channel"
            hasCredential={to.hasCredential}
            onAddress={(address) => change({ set: 'address', address })}
            onCredential={(credential) => change({ set: 'credential', credential })}
          />
          {to.testing && (
            <Endpoint
              of=" for tests"
              address={to.testAddress}
              simulator={to.testSimulator}
              simulated="the simulated channel’s test account"
              hasCredential={to.hasTestCredential}
              onAddress={(address) => change({ set: 'testAddress', address })}
              onCredential={(credential) => change({ set: 'testCredential', credential })}
            />
          )}
        </>
      )}
      {published && (
        <p>
          The channel fetches at <span className="mono">{to.fetchAt}</span>{' '}
          <TextButton onClick={() => change({ set: 'token' })}>Create a new address</TextButton>
          <span className="small muted"> The present address stops working at once.</span>
        </p>
      )}
      <div className="row">
        <span className="muted">Blocked listings that the channel already has</span>
        <SelectField
          name="Blocked listings"
          value={to.ofBlocked}
          options={[
            ['leave', 'leave unchanged'],
            ['withdraw', 'withdraw'],
          ]}
          onChange={(ofBlocked) => change({ set: 'ofBlocked', ofBlocked })}
        />
      </div>
      <div className="row">
        <span className="muted">Listings with an unusual price or changed identifier</span>
        <SelectField
          name="Held for review"
          value={to.limits.hold}
          options={[
            ['listings', 'hold them and send the rest'],
            ['all', 'hold the submission'],
          ]}
          onChange={(hold) => change({ set: 'hold', hold: hold as 'listings' | 'all' })}
        />
      </div>
      <span className="muted">Held for review beyond</span>
      <div className="row" style={{ flexWrap: 'wrap' }}>
        <Settings of="Held for review" settings={limits} values={to.limits} onSet={setLimit} />
      </div>
      <div className="row">
        <Settings of="Notification" settings={reported} values={to.limits} onSet={setLimit} />
      </div>
    </section>
  );
}

/** One account of the channel: its address, and what opens it. */
function Endpoint({
  of,
  address,
  simulator,
  simulated,
  hasCredential,
  onAddress,
  onCredential,
}: {
  of: string;
  /** Empty where it is the simulator's. */
  address: string;
  simulator: string;
  simulated: string;
  hasCredential: boolean;
  onAddress: (address: string) => void;
  onCredential: (credential: string) => void;
}) {
  return (
    <>
      <div className="row">
        <AutosaveTextField
          name={`Address of the channel${of}`}
          shown="beside"
          value={address}
          placeholder={simulator}
          width={380}
          mono
          onSave={onAddress}
        />
        <span className="small muted">{address === '' && simulated}</span>
      </div>
      <div className="row">
        <AutosaveTextField
          name={`Credential${of}`}
          shown="beside"
          type="password"
          value=""
          placeholder={hasCredential ? 'stored encrypted' : 'none'}
          width={220}
          onSave={onCredential}
        />
        {hasCredential && <TextButton onClick={() => onCredential('')}>Delete it</TextButton>}
      </div>
    </>
  );
}
