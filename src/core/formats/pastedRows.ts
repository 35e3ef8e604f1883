import { CsvError, parse } from 'csv-parse/sync';
import { InputError } from '../errors/inputError';
import { detectSeparator } from '../import/encoding/decode';

/**
 * Rows of delimited text that a person pasted or chose: the separator is told from the text, rows may differ in length.
 * @param most rows read; the rest is passed over
 * @throws InputError where there is no text or a quotation mark is never closed
 */
export function readPastedRows(text: string, most = 500): string[][] {
  if (text.trim() === '') throw new InputError('nothingPasted');
  try {
    return parse(text, {
      delimiter: detectSeparator(text),
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      bom: true,
      to: most,
    });
  } catch (error) {
    if (error instanceof CsvError) throw new InputError('rowsUnreadable', { why: error.message });
    throw error;
  }
}
