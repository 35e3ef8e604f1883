import { type CheckModule, onEach, type ValueCheckMaker } from '../check';

interface Facts {
  link: { found: string; reason: 'form' | 'scheme' | 'space' | 'session' | 'inside' };
}

// RFC 3986: scheme, host and a path without spaces or quotation marks; channels take http and https only.
const usual = /^https?:\/\/[A-Za-z0-9](?:[A-Za-z0-9.-]*[A-Za-z0-9])?(?::\d{1,5})?(?:[/?#][^\s"<>\\^`{|}]*)?$/;

/** Names under which shops keep a visit in an address; common practice. */
const ofOneVisit =
  /[?&;](?:php|j|asp)?sess(?:ion)?(?:_?id)?=|[?&;](?:sid|phpsessid|jsessionid|aspsessionid\w*|cftoken|oscsid|xtcsid|zenid)=/i;
/** Hosts that only one's own network knows: RFC 1918, RFC 6761, RFC 6762. */
const inside =
  /^https?:\/\/(?:localhost|127\.|10\.|192\.168\.|172\.(?:1[6-9]|2\d|3[01])\.|169\.254\.|[\w-]+(?::\d+)?(?:[/?#]|$)|[^/?#]+\.(?:local|localhost|internal|test|invalid)(?::\d+)?(?:[/?#]|$))/i;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.kind !== 'link' && field.kind !== 'pictures') return undefined;
  return onEach((text, report) => {
    if (usual.test(text)) {
      if (text.includes('?') && ofOneVisit.test(text))
        report('link', 'risk', field.code, { found: text, reason: 'session' });
      else if (inside.test(text)) report('link', 'blocker', field.code, { found: text, reason: 'inside' });
      return;
    }
    const reason = /\s/.test(text) ? 'space' : /^https?:\/\//i.test(text) ? 'form' : 'scheme';
    report('link', 'blocker', field.code, { found: text, reason });
  });
};

/** Links are absolute http or https addresses without spaces. */
export const link: CheckModule<Facts> = {
  issues: {
    link: {
      about: 'An address is invalid, not https, has a space, belongs to one visit or to a private network.',
      severity: ['blocker', 'risk'],
      on: 'links and pictures',
      source: 'WHATWG URL',
      example: { found: 'quillmoss.example/pot', reason: 'scheme' },
      title: (label) => `${label} is not a valid address`,
      words: ({ found, reason }, label) =>
        reason === 'space'
          ? `${label} “${found}” has a space in it`
          : reason === 'session'
            ? `${label} “${found}” belongs to a single visit and will stop working`
            : reason === 'inside'
              ? `${label} “${found}” is reached from your own network only`
              : reason === 'scheme'
                ? `${label} “${found}” does not start with https://`
                : `${label} “${found}” is not a valid address`,
    },
  },
  onValue,
};
