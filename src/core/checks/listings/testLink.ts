import type { CheckModule, ValueCheckMaker } from '../check';
import { onEach } from '../check';

interface Facts {
  testLink: { found: string; what: 'frontPage' | 'testServer' };
}

/** Hosts by which shops are tried, and names that RFC 6761 keeps. The check `link` reports addresses within a network. */
const testHost =
  /^(?:(?:www\.)?(?:dev|test|testing|stage|staging|demo|preprod|preview|sandbox|uat)[\d-]*\.[^/]+|[^/]+\.invalid)(?::\d+)?$/i;

const onValue: ValueCheckMaker<Facts> = (field) => {
  if (field.role !== 'link') return undefined;
  return onEach((text, report) => {
    const parts = /^https?:\/\/([^/?#]+)([^?#]*)(\?[^#]*)?/i.exec(text.trim());
    if (!parts) return;
    const [, host = '', path = '', query = ''] = parts;
    if (testHost.test(host)) report('testLink', 'risk', field.code, { found: text, what: 'testServer' });
    else if (/^\/?(?:index\.\w{3,4})?$/i.test(path) && query === '')
      report('testLink', 'risk', field.code, { found: text, what: 'frontPage' });
  });
};

/** A link that leads to the shop's front page or to a server for trials, instead of to the item. */
export const testLink: CheckModule<Facts> = {
  issues: {
    testLink: {
      about: 'A link to the front page or to a test server.',
      severity: ['risk'],
      on: 'links',
      source: 'RFC 6761 for names kept for tests',
      example: { found: 'https://staging.quillmoss.example/p/1', what: 'testServer' },
      title: (label) => `${label} does not lead to the item`,
      words: ({ found, what }, label) =>
        `${label} “${found}” leads to ${what === 'frontPage' ? 'the front page' : 'a test server'}`,
    },
  },
  onValue,
};
