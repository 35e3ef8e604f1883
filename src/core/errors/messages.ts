/** What every refusal says: what happened, what was kept, and the remedy. The only place where its words are made. */

import { counted, formatNumber, plural } from '../text/formatting';

type Facts<K extends string> = { readonly [P in K]: unknown };

export const errorWords = {
  nothingToUndo: () => 'There is nothing to undo.',
  changedSince: ({ words, list, more }: Facts<'words' | 'list' | 'more'>) =>
    `“${words}” cannot be undone: ${list}${more} changed since. Nothing was undone.`,
  draftChangedSince: ({ feed, words }: Facts<'feed' | 'words'>) =>
    `“${words}” cannot be undone: the draft of ${feed} was changed since. Nothing was undone.`,
  draftChangedMeanwhile: ({ name }: Facts<'name'>) =>
    `The draft of ${name} was changed at the same moment. Nothing was changed; try again.`,
  scheduleRefused: ({ words }: Facts<'words'>) => `Not saved. ${words}`,
  readingTooMuch: () =>
    'This file needs more memory or time than allowed. Nothing was changed. Save it as CSV, or split it, and try again.',
  viewWithoutName: () => 'A view needs a name.',
  attributeThere: ({ code, label }: Facts<'code' | 'label'>) =>
    `There is already an attribute ${code}, “${label}”.`,
  currencyAttribute: () =>
    'Amounts in another currency and texts in another language belong to their attribute. Change that attribute.',
  familyIsNoAttribute: () => '“family” groups items. Choose another code.',
  labelTaken: ({ label }: Facts<'label'>) => `Another attribute is called “${label}” already.`,
  kindStays: ({ count, label }: Facts<'count' | 'label'>) =>
    `${counted(Number(count), 'item')} ${plural(Number(count), 'has', 'have')} a value of ${label}, so its kind cannot change. Empty them first, or add another attribute.`,
  noAttribute: () => 'This attribute was deleted.',
  noWord: () => 'Enter the new word.',
  attributeStays: () => 'This attribute cannot be deleted.',
  attributeFilled: ({ count, label }: Facts<'count' | 'label'>) =>
    `${counted(Number(count), 'item')} ${plural(Number(count), 'has', 'have')} a value of ${label}. Empty them first.`,
  noFamily: ({ family }: Facts<'family'>) => `The family ${family} was deleted.`,
  familyWithoutCode: () => 'A family needs a code.',
  familyWithoutName: () => 'A family needs a name.',
  familyThere: ({ family }: Facts<'family'>) => `There is already a family ${family}.`,
  tooManyExpectations: ({ most }: Facts<'most'>) =>
    `A feed has ${most} expectations at most. Delete one first.`,
  blockNumber: ({ found, verdict }: Facts<'found' | 'verdict'>) =>
    verdict === 'checkdigit'
      ? `${found}: its check digit is wrong. Enter the first GTIN as in the certificate.`
      : verdict === 'length'
        ? `${found}: no GTIN has that many digits.`
        : `“${found}” is not a GTIN. Enter the first GTIN with its check digit.`,
  blockRestricted: ({ found }: Facts<'found'>) =>
    `The prefix of ${found} is for use inside one company and cannot be on a product for sale.`,
  blockCount: ({ most }: Facts<'count' | 'most'>) => `Enter how many GTINs the block has, from 1 to ${most}.`,
  blockTooFar: ({ found, count }: Facts<'found' | 'count'>) =>
    `From ${found} fewer than ${count} GTINs of that length follow.`,
  blockTwice: ({ found, known }: Facts<'found' | 'known'>) =>
    `Some of the GTINs from ${found} are already in the block from ${known}.`,
  numbersUsedUp: ({ left, wanted }: Facts<'left' | 'wanted'>) =>
    `Only ${left} GTINs are left for ${wanted} items; none was assigned. Add a block, or choose fewer items.`,
  numbersNotNeeded: () => 'All of these items have a GTIN.',
  rangeEmpty: () => 'This range has no rows. It needs a heading row and a row for each variant.',
  rangeTooLong: ({ count, most }: Facts<'count' | 'most'>) =>
    `The range has ${count} rows, ${most} are the maximum. Import it in parts, each under its own name.`,
  rangeWithoutCode: () => 'Choose the column with the supplier’s code.',
  rangeTooMuch: ({ items, variants }: Facts<'items' | 'variants'>) =>
    `${items} items and ${variants} variants are too many to compare at once. Import the range in parts, each under its own name.`,
  pairTaken: ({ sku, variant }: Facts<'sku' | 'variant'>) =>
    `${sku} and ${variant} are already matched. Reopen the match first.`,
  noPairs: () => 'No item is matched with a variant yet.',
  keywordsEmpty: () => 'This list is empty. It needs a column of terms and one of volumes.',
  keywordsWithoutColumn: ({ column, found }: Facts<'column' | 'found'>) =>
    `No column is headed “${column}”. The first line is: ${found}. Name the columns term and volume; language and category are optional.`,
  keywordsTooMany: ({ count, most }: Facts<'count' | 'most'>) =>
    `The list has ${count} rows, ${most} are the maximum. Remove the least searched terms.`,
  noVersion: ({ version }: Facts<'version'>) => `There is no version ${version} of this feed.`,
  noLeftDraft: ({ name }: Facts<'name'>) => `No draft is stored under the name “${name}”.`,
  draftWithoutName: () => 'Enter a name for the draft.',
  nothingToLeave: () => 'The draft has no changes to store.',
  tooManyVariants: ({ count, most }: Facts<'count' | 'most'>) =>
    `These terms would create ${count} variants; ${most} are the most. Choose fewer terms.`,
  nothingToSplit: ({ family }: Facts<'family'>) =>
    `All items of ${family} have the same value, so the family cannot be split by it.`,
  splitTaken: ({ family }: Facts<'family'>) => `There is already a family ${family}. Nothing was split.`,
  newFamilyWithoutCode: () => 'Enter a code for the family.',
  familyOfOne: () => 'Choose two items or more for a family.',
  mergeIntoThere: ({ family }: Facts<'family'>) =>
    `There is already a family ${family}; move the items into it.`,
  memberElsewhere: ({ sku, family }: Facts<'sku' | 'family'>) =>
    `${sku} belongs to ${family} already; remove it from that family first. Nothing was changed.`,
  familyHasItems: ({ family, count }: Facts<'family' | 'count'>) =>
    `${family} still has ${count} items; move or archive them first. Nothing was changed.`,
  copyWithoutCode: () => 'The copy needs a code.',
  noItem: ({ sku }: Facts<'sku'>) => `The item ${sku} was deleted.`,
  pictureTooLarge: () => 'The picture is larger than 25 MB. Nothing was changed.',
  tooManyPixels: ({ name, width, height, most }: Facts<'name' | 'width' | 'height' | 'most'>) =>
    `${name} has ${width} × ${height} pixels, more than ${most} million. Nothing was changed.`,
  noPicture: ({ name }: Facts<'name'>) =>
    `${name} is not a JPEG, PNG, GIF, WebP or TIFF picture. Nothing was changed.`,
  attributeFixed: () => 'This attribute cannot be changed here.',
  noItemNothingChanged: ({ sku }: Facts<'sku'>) => `There is no item ${sku}. Nothing was changed.`,
  valueRefused: ({ label, sku, words }: Facts<'label' | 'sku' | 'words'>) =>
    `${label} of ${sku}: ${words} Nothing was changed.`,
  itemWithoutSku: () => 'An item needs an SKU.',
  itemThere: ({ sku }: Facts<'sku'>) => `There is already an item ${sku}.`,
  familyMissing: ({ family }: Facts<'family'>) =>
    `There is no family ${family}. Create the family first, or add the item without one.`,
  copyWithoutSku: () => 'The copy needs an SKU.',
  tooSlow: ({ host, seconds }: Facts<'host' | 'seconds'>) =>
    `${host} did not finish within ${seconds} seconds.`,
  tooManyRedirects: ({ address, most }: Facts<'address' | 'most'>) =>
    `${address} redirects more than ${most} times.`,
  answerTooLarge: ({ most }: Facts<'most'>) => `It is larger than ${most}. Nothing was changed.`,
  noAddress: ({ address }: Facts<'address'>) =>
    `“${address}” is not a complete address. Write it with https://.`,
  addressKind: () => 'Only http and https addresses are fetched.',
  addressWithPassword: () =>
    'The address contains a user name and a password, which are not sent. Remove them.',
  noHost: ({ host }: Facts<'host'>) => `There is no host ${host}; check the address.`,
  ownNetwork: ({ host }: Facts<'host'>) => `${host} is inside this machine's own network and is not fetched.`,
  noChannelsFolder: () => 'The folder src/channels is missing; run the command in the project’s folder.',
  unknownChannel: ({ channel, known }: Facts<'channel' | 'known'>) =>
    `There is no channel "${channel}"; there are ${known}.`,
  noChannel: ({ channel }: Facts<'channel'>) => `There is no channel “${channel}”.`,
  channelThere: ({ channel }: Facts<'channel'>) =>
    `There already is a channel “${channel}”. Import this as its new version, or change its code.`,
  versionOpen: ({ version }: Facts<'version'>) =>
    `Version ${version} is open. Accept it or delete it before you open another.`,
  otherSheet: ({ found, wanted }: Facts<'found' | 'wanted'>) =>
    `The file is the sheet of “${found}”, not of “${wanted}”. Choose that channel’s page.`,
  noOpenVersion: () => 'The open version was accepted or deleted.',
  versionChanged: () => 'Someone else changed this version. Review it again before you accept it.',
  noMarket: ({ channel, country, language }: Facts<'channel' | 'country' | 'language'>) =>
    `${channel} has no market ${country} in “${language}”.`,
  feedThere: ({ channel, country }: Facts<'channel' | 'country'>) =>
    `There is already a feed for ${channel} in ${country}.`,
  noFeed: () => 'This feed was deleted.',
  noCurrency: ({ currency }: Facts<'currency'>) =>
    `${currency} is not a currency of ISO 4217, such as EUR. Nothing was changed.`,
  noListing: ({ sku }: Facts<'sku'>) =>
    `This feed has no listing of ${sku}. Nothing was changed. Check the SKU and the scope of the feed.`,
  noLocale: ({ locale }: Facts<'locale'>) =>
    `${locale} is not a language and region, such as de-DE. Nothing was changed.`,
  noZone: ({ zone }: Facts<'zone'>) =>
    `${zone} is not a time zone, such as Europe/Berlin. Nothing was changed.`,
  channelSaysNoMore: () => 'This channel offers no list to compare with and no later results.',
  feedUnderWay: () =>
    'A submission of this feed is in progress or held for review. End it first, then delete the feed.',
  sourceUnderWay: () => 'An import of this source is running. Wait until it has finished, or stop it.',
  channelHasFeeds: ({ feeds }: Facts<'feeds'>) => `Delete its feeds first: ${feeds}.`,
  channelStays: () => 'A channel that ships with Lively Cart cannot be deleted.',
  answerLost: () => 'The answer to this change was lost. Reload the page to see whether it was saved.',
  nothingDiffers: () => 'Our records no longer differ from the channel’s list.',
  nothingWaits: () => 'No new item is held for this feed.',
  noSource: () => 'This source was deleted.',
  sourceWithoutAddress: () => 'This source has no address to fetch from.',
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
    `The records at “${list}” have ${count} different values; ${most} are the most. Nothing was changed. Choose another list.`,
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
  schemaEmpty: () => 'The schema has no "properties": so there are no fields to create.',
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
