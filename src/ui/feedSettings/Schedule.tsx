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
    <section aria-label="Schedule" aria-busy={doing.busy}>
      <h2>Schedule</h2>
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
                  <span title="Feeds are sent a few minutes apart.">
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
              {hour.paused ? 'Resume' : 'Pause'}
            </TextButton>{' '}
            <TextButton onClick={() => change({ set: 'schedule', schedule: null })}>Manual only</TextButton>
          </p>
        </>
      ) : (
        <div className="row">
          <span className="muted">Manual only.</span>
          <Button
            variant="default"
            onClick={() => change({ set: 'schedule', schedule: scheduleSchema.parse({ every: 'day' }) })}
          >
            Send on a schedule
          </Button>
        </div>
      )}
      {hour.quick !== undefined && (
        <CheckboxField
          name="Send changed prices and stock at once, within the channel’s rate limit"
          checked={hour.quick}
          onChange={(on) => change({ set: 'quick', on })}
        />
      )}
    </section>
  );
}
