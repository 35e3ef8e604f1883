import { type Fault, faults, one, type Service } from './kit';

const safe = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const time = (at: number): string => new Date(at).toISOString().slice(11, 19);

/** The shortest pause between two things that came in, in s. */
function shortest(arrivals: readonly number[]): string {
  const gaps = arrivals.slice(1).map((at, i) => at - (arrivals[i] ?? at));
  return gaps.length === 0 ? '–' : `${(Math.min(...gaps) / 1000).toFixed(1)} s`;
}

function section(service: Service, test = false): string {
  const { kept, rate } = service;
  const listings = Object.entries(kept.listings);
  const drafts = Object.keys(kept.drafts).length;
  const taken = Object.values(kept.taken)
    .sort((a, b) => b.at - a.at)
    .slice(0, 8);
  const options = Object.entries(faults)
    .map(([code, words]) => `<option value="${code}">${safe(words)}</option>`)
    .join('');
  return `<section><h2>${safe(service.name)}${test ? ', test account' : ''}</h2>
<p>${listings.length} listings${drafts > 0 ? `, ${drafts} drafts` : ''}; ${kept.arrivals.length} received, at most ${rate.count} in ${rate.minutes} min are accepted, shortest pause ${shortest(kept.arrivals)}, ${kept.tooFast} too fast</p>
${test ? '' : `<form method="post" action="/faults"><input type="hidden" name="service" value="${service.code}"><label>Next failure <select name="fault">${options}</select></label> <button>Set</button> ${service.waiting.map((one) => safe(faults[one])).join(', ')}</form>`}
${kept.visits.length > 0 ? `<p>${kept.visits.length} pages visited, the last at ${time(kept.visits.at(-1)?.at ?? 0)}, shortest pause ${shortest(kept.visits.map(({ at }) => at))}</p>` : ''}
<table><tr><th>When<th>Listings<th>Rejected</tr>${taken.map(({ at, count, refused }) => `<tr><td>${time(at)}<td>${count}<td>${refused}</tr>`).join('')}</table>
<details><summary>Rejected</summary><ul>${kept.refused
    .slice(0, 50)
    .map(
      ({ key, problems }) =>
        `<li><b>${safe(key)}</b> ${problems.map(({ code, text }) => safe(`${code} ${text}`)).join('; ')}`,
    )
    .join('')}</ul></details>
<details><summary>Listings</summary><ul>${listings
    .slice(0, 200)
    .map(
      ([key, { number, row }]) =>
        `<li>${safe(number)} <b>${safe(key)}</b> ${safe(
          Object.keys(row)
            .slice(1, 3)
            .map((name) => one(row, name))
            .join(' · '),
        )}`,
    )
    .join('')}</ul></details></section>`;
}

/** One page on what all the simulated channels have, refused and measured. @param trials test accounts that something came to */
export const consolePage = (services: readonly Service[], trials: readonly Service[]): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Simulated channels</title><style>
body{font:15px/1.5 sans-serif;margin:2rem auto;max-width:60rem;padding:0 1rem}h2{margin:1.5rem 0 .3rem}table{border-collapse:collapse}td,th{padding:.1rem 1rem .1rem 0;text-align:left}
</style></head><body><h1>Simulated channels</h1><p>They answer as real ones do, keep what they hold, and fail when told to.</p>${services.map((one) => section(one)).join('')}${trials.map((one) => section(one, true)).join('')}</body></html>`;

export const isFault = (given: string): given is Fault => Object.hasOwn(faults, given);
