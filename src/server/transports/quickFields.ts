import type { Sheet } from '../../core/channels/sheet';
import { fieldWithRole } from '../../core/channels/sheet';
import { transportFacts } from '../../core/channels/transports';
import { transportOf } from './';

/**
 * The fields of prices and stock, where a channel takes listings that changed in nothing else by themselves: as a part of theirs
 * (`delivery.quick`), or whole in a file of some listings. None where every file must hold all.
 */
export function quickFields(sheet: Sheet): readonly string[] {
  const { quick, partial, manner } = sheet.delivery;
  if (transportOf(sheet)?.whole === true || partial === 'no' || !transportFacts[manner].automatic) return [];
  if (quick) return quick.fields;
  return [fieldWithRole(sheet, 'price'), fieldWithRole(sheet, 'availability')].flatMap((field) =>
    field ? [field.code] : [],
  );
}
