import { formatNumber } from '../formatting/formatting';

export type Facts<K extends string> = { readonly [P in K]: unknown };

/** What a refusal says of files that are read: imports, sheets, plans, and what the terminal is given. */
export const fileErrorWords = {
  columnMissing: ({ column, label }: Facts<'column' | 'label'>) =>
    `The file has no column “${column}”, the source of ${label}. Nothing was changed. Choose another column or the right file.`,
  diskFull: () =>
    'The disk of the server is full, so the file was not stored. Ask the administrator to free space, then import the file again.',
  fileTooLarge: () =>
    'The file is larger than 2 GB. Nothing was changed. Split it and import the parts one after another.',
  runElsewhere: () => 'The import run has moved on. The page shows its current state.',
  runUnderWay: ({ file }: Facts<'file'>) =>
    `Another run of this source, ${file}, is still in progress. Start this one when it has ended.`,
  runEnded: () => 'The import run has ended. The page shows its current state.',
  tooManyColumns: ({ count, most }: Facts<'count' | 'most'>) =>
    `The file has ${count} columns; ${most} are the most. Nothing was changed. Check the separator.`,
  noSheet: ({ sheet, known }: Facts<'sheet' | 'known'>) =>
    `The workbook has no sheet “${sheet}”; it has ${known}.`,
  tooManyValuesAt: ({ list, count, most }: Facts<'list' | 'count' | 'most'>) =>
    `The records at “${list}” have ${formatNumber(Number(count))} different values; ${formatNumber(Number(most))} are the most. Nothing was changed. Choose another list.`,
  recordWithoutEnd: ({ list }: Facts<'list'>) =>
    `No record ended within 16 MB, as if the wrong list were chosen. Nothing was changed. Choose another list than “${list}”.`,
  workbookWithoutSku: ({ found }: Facts<'found'>) =>
    `No column is called SKU, so the rows cannot be matched with items. The first headings are ${found || 'empty'}. Nothing was changed.`,
  workbookTooLong: ({ most }: Facts<'most'>) =>
    `The table has more than ${formatNumber(Number(most))} rows; import it at Sources, or in parts. Nothing was changed.`,
  archiveRefused: ({ why }: Facts<'why'>) => `The archive ${why}. Nothing was changed.`,
  workbookRefused: ({ why }: Facts<'why'>) => `The workbook ${why}. Nothing was changed.`,
  optionWithoutValue: ({ option }: Facts<'option'>) => `${option} needs a value after it.`,
  unknownOption: ({ option, known }: Facts<'option' | 'known'>) =>
    `${option} is not an option here; there are ${known}.`,
  optionMissing: ({ option, usage }: Facts<'option' | 'usage'>) => `--${option} is missing. Usage: ${usage}`,
  unreadable: ({ what, path }: Facts<'what' | 'path'>) =>
    `The ${what} ${path} cannot be read; check the path.`,
  planOfLater: ({ format, newest }: Facts<'format' | 'newest'>) =>
    `The plan is of format ${format}; this version knows formats up to ${newest}. Update the application.`,
  planUnreadable: ({ place, why }: Facts<'place' | 'why'>) => `The plan is not valid at ${place}: ${why}`,
  planNoJson: ({ path, why }: Facts<'path' | 'why'>) => `The plan ${path} is not JSON: ${why}`,
  planInvalid: ({ path, place, why }: Facts<'path' | 'place' | 'why'>) =>
    `The plan ${path} is not valid at ${place}: ${why}`,
  noCurrencyOption: ({ currency }: Facts<'currency'>) =>
    `--currency takes a code of ISO 4217, such as EUR, not “${currency}”.`,
  mappingNoJson: ({ path, why }: Facts<'path' | 'why'>) => `The mapping ${path} is not JSON: ${why}`,
  mappingInvalid: ({ path, place, why }: Facts<'path' | 'place' | 'why'>) =>
    `The mapping ${path} is not valid at ${place}: ${why}`,
  unknownDamage: ({ known, word }: Facts<'known' | 'word'>) => `--accept knows ${known}, not “${word}”.`,
  sourceUnreadable: ({ path }: Facts<'path'>) => `The source ${path} cannot be read; check the path.`,
  noSkuColumn: ({ columns }: Facts<'columns'>) =>
    `No column was recognised as the SKU. The columns are ${columns}. Give a mapping with "sku".`,
  unknownSuggestion: ({ known, word, usage }: Facts<'known' | 'word' | 'usage'>) =>
    `cart suggest wants ${known}, not “${word}”. Usage: ${usage}`,
  suggestionMissing: ({ option, usage }: Facts<'option' | 'usage'>) =>
    `--${option} is missing. Usage: ${usage}`,
  noMarketOf: ({ channel, country, known }: Facts<'channel' | 'country' | 'known'>) =>
    `${channel} has no market “${country}”; it has ${known}.`,
  valueNotRead: ({ text, why }: Facts<'text' | 'why'>) => `“${text}” ${why}.`,
  sheetInvalid: ({ place, why }: Facts<'place' | 'why'>) =>
    `The requirement sheet is not valid at ${place}: ${why}.`,
  cannotJoin: () => 'This channel offers no search.',
  noTestAccount: () =>
    'This channel fetches its file or takes it by hand. Check the file before you publish.',
  testing: () => 'This feed uses the test account. Choose the live account in its settings first.',
  noSubmission: () => 'This submission was deleted.',
  notHeld: () => 'This submission is no longer held for review.',
  notSending: () => 'This submission has ended.',
  notPaused: () => 'This submission is no longer paused.',
  notWaiting: () => 'This submission is no longer waiting for a result.',
  visitsOff: () => 'Visits to the shop’s pages are off. Switch them on first.',
  noRule: () => 'This rule was deleted.',
  noWorkspace: () => 'There is no workspace yet.',
  uploadDropped: () => 'This file was deleted after its retention time. Its items are kept.',
  scheduleChanged: () => 'Someone else changed this schedule. Review it, then change it.',
  noHook: () => 'This webhook was deleted.',
  tooManyHooks: ({ most }: { most: number }) =>
    `No more than ${most} webhooks are possible. Delete one first.`,
  listingsDropped: () =>
    'What was sent then was deleted after its retention time, see Settings, so the channel cannot be restored to it.',
  nothingToBringBack: () => 'The channel already has what it had then.',
  destinationChanged: () => 'Someone else changed this destination. Reload the page to see the change.',
  answerUnreadable: ({ why }: Facts<'why'>) => `The result file cannot be read: ${why}.`,
  fileDiffers: ({ row, why }: Facts<'row' | 'why'>) =>
    `The created file is wrong at listing ${row}: ${why}. Nothing was sent.`,
  reportShape: ({ place }: Facts<'place'>) =>
    `The channel’s answer has no list of results at ${place}; correct “List of results” in the channel’s sheet.`,
  noJson: ({ why }: Facts<'why'>) => `This is not JSON: ${why}`,
  branchUnknown: ({ at, branch }: Facts<'at' | 'branch'>) =>
    `The requirement sheet is not valid at branches.${at}.under: the tree has no ${branch}.`,
  conditionBranchUnknown: ({ field, branch }: Facts<'field' | 'branch'>) =>
    `The requirement sheet is not valid at ${field}.mustWhen: the tree has no branch ${branch}.`,
  noHeadings: () => 'No column has a name. Paste the heading row as the first line.',
  schemaElsewhere: ({ reference }: Facts<'reference'>) =>
    `The schema refers to “${reference}”, which is not in this document. Bundle it first.`,
  schemaUndefined: ({ reference }: Facts<'reference'>) =>
    `The schema refers to “${reference}”, which it does not define.`,
  schemaNoObject: () => 'A JSON Schema is an object; this is not.',
  schemaEmpty: () => 'The schema has no "properties", so there are no fields to create.',
  categoryWithoutCode: ({ number }: Facts<'number'>) => `Category number ${number} has no code. Give it one.`,
  categoryTwice: ({ category }: Facts<'category'>) => `Category ${category} is defined twice. Remove one.`,
  categoryParent: ({ category, parent }: Facts<'category' | 'parent'>) =>
    `Category ${category} names the parent ${parent}, which is not defined.`,
  categoryCircle: ({ category }: Facts<'category'>) =>
    `Category ${category} is below itself. Check its parents.`,
  treeUnreadable: ({ why }: Facts<'why'>) => `The category tree cannot be read: ${why}.`,
  treeHeadings: () =>
    'The category tree needs a heading row with the columns code, parent, name_en (or another language) and synonyms.',
  nothingPasted: () => 'The text is empty. Paste the heading row, or choose a file.',
  rowsUnreadable: ({ why }: Facts<'why'>) => `The rows cannot be read: ${why}.`,
  columnsAlike: ({ attribute, first, second }: Facts<'attribute' | 'first' | 'second'>) =>
    `Two columns of the catalog name ${attribute}: “${first}” and “${second}”. Remove one of them.`,
  catalogUnreadable: ({ why }: Facts<'why'>) => `The catalog cannot be read as CSV: ${why}`,
  catalogEmpty: () => 'The catalog has no rows below its heading row.',
  catalogWithoutSku: () =>
    'The catalog has no column "sku"; name the column that identifies each item "sku".',
  rowWithoutSku: ({ row }: Facts<'row'>) => `Row ${row} has no SKU; every item needs one.`,
  skuTwice: ({ row, sku, before }: Facts<'row' | 'sku' | 'before'>) =>
    `Row ${row} repeats the SKU ${sku} of row ${before}; SKUs identify one item each.`,
  lineNoItem: ({ line, why }: Facts<'line' | 'why'>) => `Line ${line} of the catalog is not an item: ${why}`,
  xmlBroken: ({ line, column, why }: Facts<'line' | 'column' | 'why'>) =>
    `The file is not well-formed XML: line ${line}, column ${column}: ${why} Nothing was changed.`,
  xmlEntities: () =>
    'The file defines entities of its own, which are not read because they can be harmful. Nothing was changed.',
  jsonBroken: ({ line, what }: Facts<'line' | 'what'>) =>
    `Line ${line} is not JSON: ${what}. Nothing was changed.`,
  tooDeep64: () =>
    'The file is nested more than 64 levels deep. Nothing was changed. Ask its sender for a flat export.',
  notInEncoding: ({ line, encoding }: Facts<'line' | 'encoding'>) =>
    `About line ${line} the file holds bytes that are not ${encoding}, so its letters cannot be read. Nothing was changed. Choose another encoding, or ask its sender to save it as UTF-8.`,
  tooDeep: ({ most }: Facts<'most'>) =>
    `The file is nested more than ${most} levels deep. Nothing was changed. Ask its sender for a flat export.`,
  tooManyValues: ({ most }: Facts<'most'>) =>
    `A record holds more than ${most} values, as if the wrong list were chosen. Nothing was changed. Choose another list.`,
  variantWithoutSku: () => 'The pattern gives no SKU. No variant was created.',
  variantTaken: ({ sku }: Facts<'sku'>) =>
    `The SKU ${sku} belongs to another item. Change the pattern. No variant was created.`,
  variantTwice: ({ sku }: Facts<'sku'>) =>
    `The pattern gives the SKU ${sku} twice. Add an axis to it. No variant was created.`,
  noPictureThere: ({ address, status }: Facts<'address' | 'status'>) =>
    `No picture came from ${address}${status ? `: it answered ${status}` : ''}. Nothing was changed.`,
  addressAnswered: ({ status }: Facts<'status'>) => `Its address answered ${status}. Nothing was changed.`,
  empty: () =>
    'The file is empty. Nothing was changed. Save it again from where it comes and check that it shows rows.',
  noTables: () =>
    'The page has no table in it. Nothing was changed. Save the page that shows the items in a table, or export them as a file.',
  tooManyTurned: ({ most }: Facts<'most'>) =>
    `The table is set to have an item in each column, but it has more than ${most} rows. Nothing was changed. Choose an item in each row.`,
  zeros: () =>
    'The file holds nothing but zero bytes, as a broken copy does. Nothing was changed. Copy or download it again.',
  binary: () =>
    'The file is not delimited text, a workbook (XLSX, XLS, ODS), a page with tables, XML or JSON, nor one of these packed (ZIP, gzip). Nothing was changed. Export it as one of these and choose that file.',
  packedBroken: ({ why }: Facts<'why'>) =>
    `The packed file (gzip) cannot be unpacked: ${why}. Nothing was changed. Copy or download it again.`,
  onlyHeading: () =>
    'The file has a heading row and nothing below it. Nothing was changed. Check the export.',
  whichCommand: ({ usage }: Facts<'usage'>) => `Which command? There are:\n${usage}`,
  unknownCommand: ({ command, usage }: Facts<'command' | 'usage'>) =>
    `There is no command "${command}". There are:\n${usage}`,
  noList: () => 'The file holds no list of records. Nothing was changed.',
  noListAt: ({ list, known }: Facts<'list' | 'known'>) =>
    `There is no list at “${list}”; there are ${known}.`,
} as const satisfies Readonly<Record<string, (facts: never) => string>>;
