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
    <section className="panel" aria-label="Webhooks" aria-busy={doing.busy}>
      <form
        className="told"
        onSubmit={(event) => {
          event.preventDefault();
          if (address.trim() !== '') add();
        }}
      >
        <div className="row">
          <TextField
            name="Webhook address"
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
          <span className="small muted">
            Each call is signed according to the Standard Webhooks specification.
          </span>
        </div>
        {secret && (
          <p role="status">
            Its secret, shown only now: <b className="mono">{secret}</b>
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
            <TextButton onClick={() => doing.run(testWebhook(hook.id), 'Test call sent.')}>
              Send a test
            </TextButton>
            <TextButton onClick={() => doing.run(deleteWebhook(hook.id))}>Delete</TextButton>
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
              <th>Event</th>
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
                  {one.state === 'done' ? `taken, ${one.status}` : (one.words ?? 'sending')}
                  {one.state === 'queued' && one.tries > 0 && ', next try'}
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
