import { onEach, type ValueCheckMaker } from './check';

// RFC 3986: scheme, host and a path without spaces or quotation marks; channels take http and https only.
const usual = /^https?:\/\/[A-Za-z0-9](?:[A-Za-z0-9.-]*[A-Za-z0-9])?(?::\d{1,5})?(?:[/?#][^\s"<>\\^`{|}]*)?$/;

/** Links are absolute http or https addresses without spaces. */
export const link: ValueCheckMaker = (field) => {
  if (field.kind !== 'link' && field.kind !== 'pictures') return undefined;
  return onEach((text, report) => {
    if (usual.test(text)) return;
    const reason = /\s/.test(text) ? 'space' : /^https?:\/\//i.test(text) ? 'form' : 'scheme';
    report('link', 'blocker', field.code, { found: text, reason });
  });
};
