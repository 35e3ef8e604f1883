'use client';
import { Button } from '@mantine/core';
import { useState } from 'react';
import {
  callWebhookAgain,
  createWebhook,
  deleteWebhook,
  editWebhook,
  testWebhook,
} from '@/actions/notifications';
import { notificationKinds, notificationLabels } from '@/core/notifications/notifications';
import type { DeliveryView, HookView } from '@/server/notifications/webhooks';
import { When } from '../kit/display/When';
import { useAction } from '../kit/hooks/useAction';
import { CheckboxField, TextField } from '../kit/inputs/inputs';
import { TextButton } from '../kit/inputs/TextButton';

const typeWords = (type: string): string =>
  type in notificationLabels ? notificationLabels[type as keyof typeof notificationLabels] : 'a trial';

/** Addresses that are called when something happens, and what came of the calls. */
export function Webhooks({
  hooks,
  deliveries,
}: {
  hooks: readonly HookView[];
  deliveries: readonly DeliveryView[];
}) {
  const doing = useAction();
  const [address, setAddress] = useState('');
  const [secret, setSecret] = useState<string>();
  const add = () =>
    doing.run(
      createWebhook(address).then((answer) => {
        if (answer.ok) {
          setSecret(answer.secret);
          setAddress('');
        }
        return answer;
      }),
    );
  return (
    <section className="panel" aria-label="Addresses that are told" aria-busy={doing.busy}>
      <form
        className="told"
        onSubmit={(event) => {
          event.preventDefault();
          if (address.trim() !== '') add();
        }}
      >
        <div className="row">
          <TextField
            name="Address to tell"
            shown="beside"
            value={address}
            onChange={setAddress}
            placeholder="https://"
            mono
            width={360}
          />
          <Button type="submit" variant="default" disabled={address.trim() === ''}>
            Add
          </Button>
          <span className="small muted">Each call is signed, by the Standard Webhooks specification.</span>
        </div>
        {secret && (
          <p role="status">
            Its secret, shown this once: <b className="mono">{secret}</b>
          </p>
        )}
      </form>
      {hooks.map((hook) => (
        <div className="told" key={hook.id}>
          <div className="row">
            <CheckboxField
              name={hook.address}
              checked={hook.on}
              onChange={(on) => doing.run(editWebhook(hook.id, { on }))}
            />
            <TextButton onClick={() => doing.run(testWebhook(hook.id), 'It is being called.')}>
              Try it
            </TextButton>
            <TextButton onClick={() => doing.run(deleteWebhook(hook.id))}>Take it away</TextButton>
          </div>
          <div className="kinds small">
            {notificationKinds.map((kind) => (
              <CheckboxField
                key={kind}
                name={notificationLabels[kind]}
                checked={hook.kinds.includes(kind)}
                onChange={(on) =>
                  doing.run(
                    editWebhook(hook.id, {
                      kinds: notificationKinds.filter((one) =>
                        one === kind ? on : hook.kinds.includes(one),
                      ),
                    }),
                  )
                }
              />
            ))}
          </div>
        </div>
      ))}
      {deliveries.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>Called</th>
              <th>Because</th>
              <th>Answer</th>
              <th>Tries</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {deliveries.map((one) => (
              <tr key={one.id}>
                <td className="muted">
                  <When at={one.at} />
                </td>
                <td>{typeWords(one.type)}</td>
                <td
                  className={
                    one.state === 'failed' ? 'tone-blocker' : one.state === 'done' ? 'tone-ready' : 'muted'
                  }
                >
                  {one.state === 'done' ? `taken, ${one.status}` : (one.words ?? 'on its way')}
                  {one.state === 'queued' && one.tries > 0 && ', tried again'}
                </td>
                <td className="number">{one.tries}</td>
                <td>
                  <TextButton small onClick={() => doing.run(callWebhookAgain(one.id))}>
                    Send again
                  </TextButton>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
