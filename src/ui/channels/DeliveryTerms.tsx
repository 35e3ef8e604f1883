'use client';
import { deliverySettings, reportSchema, reportSettings } from '@/core/channels/delivery';
import type { Sheet } from '@/core/channels/sheet';
import { transportFacts } from '@/core/channels/transports';
import { withSetting } from '@/core/forms/forms';
import type { SheetState } from './useSheet';
import './channels.css';
import { AutosaveTextField } from '../kit/inputs/inputs';
import { Settings } from '../kit/inputs/Settings';

export function Terms({ state }: { state: SheetState }) {
  const { sheet, setSheet } = state;
  const market = (text: string): Sheet['markets'] =>
    text
      .split('\n')
      .map((line) => line.trim().split(/\s+/))
      .filter(([country = '']) => country !== '')
      .map(([country = '', currency = '', ...languages]) => ({ country, currency, languages }));
  const written = sheet.markets
    .map(({ country, currency, languages }) => [country, currency, ...languages].join(' '))
    .join('\n');
  return (
    <div className="field-form">
      <div className="line">
        <span className="word">Channel</span>
        <AutosaveTextField
          shown="above"
          name="Name"
          value={sheet.name}
          width={220}
          onSave={(name) => setSheet({ name })}
        />
        <AutosaveTextField
          shown="above"
          name="About"
          value={sheet.about}
          width={420}
          onSave={(about) => setSheet({ about })}
        />
        <AutosaveTextField
          shown="above"
          name="Takes effect on"
          value={sheet.effective}
          width={120}
          mono
          onSave={(effective) => setSheet({ effective })}
        />
      </div>
      <div className="line">
        <span className="word">Markets</span>
        <AutosaveTextField
          name="Markets, one per line: country, currency, languages"
          mono
          rows={Math.max(3, sheet.markets.length + 1)}
          width={320}
          value={written}
          onSave={(text) => setSheet({ markets: market(text) })}
        />
        <span className="muted small">
          one per line: country, currency, languages, such as “DE EUR de en”
        </span>
      </div>
      <div className="line">
        <span className="word">Delivery</span>
        <Settings
          of="Delivery"
          settings={deliverySettings(sheet.delivery)}
          values={sheet.delivery}
          onSet={(setting, text) => setSheet({ delivery: withSetting(sheet.delivery, setting, text) })}
        />
        {transportFacts[sheet.delivery.manner].automatic && (
          <AutosaveTextField
            name="Calls, per seconds"
            shown="beside"
            value={
              sheet.delivery.rate ? `${sheet.delivery.rate.count} in ${sheet.delivery.rate.seconds}` : ''
            }
            placeholder="10 in 60"
            width={90}
            mono
            onSave={(text) => setSheet({ delivery: { ...sheet.delivery, rate: rateIn(text) } })}
          />
        )}
      </div>
      {transportFacts[sheet.delivery.manner].automatic && (
        <div className="line">
          <span className="word">Answer</span>
          <Settings
            of="Answer"
            settings={reportSettings}
            values={reportSchema.parse(sheet.delivery.report ?? {})}
            onSet={(setting, text) =>
              setSheet({
                delivery: {
                  ...sheet.delivery,
                  report: withSetting(reportSchema.parse(sheet.delivery.report ?? {}), setting, text),
                },
              })
            }
          />
        </div>
      )}
      <p className="muted small">
        Rules across fields, categories, pictures and prerequisites are edited in the JSON.
      </p>
    </div>
  );
}

/** A rate written as "10 in 60"; none where it is not. */
function rateIn(text: string): Sheet['delivery']['rate'] {
  const found = /^(\d+)\s*(?:in|\/)\s*(\d+)$/.exec(text.trim());
  return found ? { count: Number(found[1]), seconds: Number(found[2]) } : undefined;
}
