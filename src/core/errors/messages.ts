/** What every refusal says: what happened, what was kept, and the remedy. The only place where its words are made. */

import { counted, plural } from '../formatting/formatting';
import { type Facts, fileErrorWords } from './fileMessages';

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
    `Only ${counted(Number(left), 'GTIN is', 'GTINs are')} left for ${counted(Number(wanted), 'item')}; none was assigned. Add a block, or choose fewer items.`,
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
  ...fileErrorWords,
} as const satisfies Readonly<Record<string, (facts: never) => string>>;
