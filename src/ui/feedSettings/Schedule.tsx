'use client';
import { Button } from '@mantine/core';
import { changeSchedule } from '@/actions/submissions';
import { scheduleSchema } from '@/core/schedule/schedule';
import type { ScheduleView } from '@/server/schedules/schedules';
import { When } from '../kit/display/When';
import { useAction } from '../kit/hooks/useAction';
import { useRevised } from '../kit/hooks/useRevised';
import { CheckboxField } from '../kit/inputs/inputs';
import { ScheduleFields } from '../kit/inputs/ScheduleFields';
import { TextButton } from '../kit/inputs/TextButton';

/** When a feed is sent by itself: its hour, in the merchant's zone, and prices and stock at once. */
export function ScheduleForm({ feed, hour }: { feed: string; hour: ScheduleView }) {
  const doing = useAction();
  const revised = useRevised(hour.revision, doing);
  const change = (edit: Parameters<typeof changeSchedule>[2]) =>
    revised((revision) => changeSchedule(feed, revision, edit));
  const { schedule } = hour;
  return (
    <section aria-label="When it is sent" aria-busy={doing.busy}>
      <h2>When it is sent</h2>
      {schedule ? (
        <>
          <div className="row" style={{ flexWrap: 'wrap' }}>
            <ScheduleFields
              of="Sent"
              schedule={schedule}
              onSet={(next) => change({ set: 'schedule', schedule: next })}
              onRefused={(words) => doing.run(Promise.resolve({ ok: false, words }))}
            />
          </div>
          <p>
            {hour.paused ? (
              <b className="tone-risk">Paused. </b>
            ) : (
              hour.next && (
                <>
                  <span title="Feeds go a few minutes after each other.">
                    Next <When at={hour.next} zone={hour.zone} />.
                  </span>{' '}
                </>
              )
            )}
            {hour.last && (
              <span className="muted">
                Last <When at={hour.last} zone={hour.zone} />: {hour.lastWords}.{' '}
              </span>
            )}
            <TextButton onClick={() => change({ set: 'paused', on: !hour.paused })}>
              {hour.paused ? 'Go on' : 'Pause'}
            </TextButton>{' '}
            <TextButton onClick={() => change({ set: 'schedule', schedule: null })}>
              Only when somebody sends it
            </TextButton>
          </p>
        </>
      ) : (
        <div className="row">
          <span className="muted">Only when somebody sends it.</span>
          <Button
            variant="default"
            onClick={() => change({ set: 'schedule', schedule: scheduleSchema.parse({ every: 'day' }) })}
          >
            Send it by itself
          </Button>
        </div>
      )}
      {hour.quick !== undefined && (
        <CheckboxField
          name="Prices and stock go out at once when they change, within the channel’s pace"
          checked={hour.quick}
          onChange={(on) => change({ set: 'quick', on })}
        />
      )}
    </section>
  );
}
