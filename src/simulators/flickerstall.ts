import { type Answer, type Call, one, type Problem, type Row, Service, type World } from './kit';

/** Words of a name, and the aisle that is proposed for them. */
const proposals: readonly (readonly [RegExp, string])[] = [
  [/\bpot|topf\b/i, 'FA1-01'],
  [/\bcan|kanne\b/i, 'FA2-01'],
  [/\bfeed|dünger\b/i, 'FA3-01'],
];
interface Looked {
  readonly stall_code: string;
  readonly receipt_status: 'rejected' | 'in_review' | 'draft';
  readonly reasons: Problem[];
  readonly listing_id?: string;
  readonly proposed?: string;
  readonly until: number;
  readonly verdict: Problem[];
}

const rowOf = (given: Record<string, unknown>): Row =>
  Object.fromEntries(
    Object.entries(given).map(([name, value]) => [
      name,
      (Array.isArray(value) ? value : [value]).map(String),
    ]),
  );

/** Minutes after which a draft is thrown away: thirty days. */
const draftMinutes = 30 * 24 * 60;

/** The simulated video shop Flickerstall: JSON by call; a draft, then a review by people, approved or refused later. */
export class Flickerstall extends Service {
  constructor(world: World) {
    super('flickerstall', 'Flickerstall', world, { count: 20, minutes: 1 });
  }

  private judge(row: Row): Problem[] {
    const text = (name: string) => one(row, name);
    const problems: Problem[] = [];
    const say = (code: string, field: string, words: string) => problems.push({ code, field, text: words });
    if (text('screen_name').length < 25) say('40010', 'screen_name', 'name too short');
    if (text('aisle') === '') say('40020', 'aisle', 'aisle missing');
    if (text('weight') === '') say('40030', 'weight', 'weight missing');
    if ((row.pictures ?? []).length === 0) say('40040', 'pictures', 'no picture');
    return problems;
  }

  /** What people say who look at it later. */
  private verdict(row: Row): Problem[] {
    return /\b(guaranteed|miracle|wunder)\b/i.test(`${one(row, 'screen_name')} ${one(row, 'details')}`)
      ? [{ code: '51007', field: 'screen_name', text: 'promises too much' }]
      : [];
  }

  /** Keeps rows as drafts; what a review would refuse is remarked. */
  private draft(rows: readonly Row[]): { answers: Looked[]; refused: number } {
    const now = Date.now();
    const { drafts, listings } = this.kept;
    const answers = rows.map((row): Looked => {
      const key = one(row, 'stall_code');
      const number = listings[key]?.number ?? drafts[key]?.number ?? this.number('FS');
      drafts[key] = { number, row, savedAt: now };
      return {
        stall_code: key,
        receipt_status: 'draft',
        reasons: this.judge(row),
        listing_id: number,
        until: now,
        verdict: [],
      };
    });
    return { answers, refused: 0 };
  }

  private throwOldDraftsAway(): void {
    for (const [key, { savedAt }] of Object.entries(this.kept.drafts))
      if (Date.now() - savedAt > draftMinutes * this.world.minute) delete this.kept.drafts[key];
  }

  answer(call: Call): Answer | Promise<Answer> {
    this.throwOldDraftsAway();
    if (call.method === 'POST' && call.path === '/drafts')
      return this.once(call, () => {
        const given = JSON.parse(call.body.toString('utf8'));
        return this.draft((given.listings ?? given).map(rowOf));
      });
    if (call.method === 'POST' && call.path === '/listings')
      return this.once(call, () => {
        const given = JSON.parse(call.body.toString('utf8'));
        const rows: Row[] = (given.listings ?? given).map(rowOf);
        let refused = 0;
        const answers = rows.map((row): Looked => {
          const key = one(row, 'stall_code');
          const proposed = proposals.find(([words]) => words.test(one(row, 'screen_name')))?.[1];
          const draft = this.kept.drafts[key];
          delete this.kept.drafts[key];
          const reasons = this.judge(row);
          const verdict = reasons.length > 0 ? [] : this.verdict(row);
          const until = Date.now() + this.world.workTime * 2;
          const more = proposed ? { proposed } : {};
          if (reasons.length > 0) {
            refused++;
            this.refuse(key, reasons);
            return { stall_code: key, receipt_status: 'rejected', reasons, until, verdict, ...more };
          }
          if (verdict.length === 0) {
            this.hold(key, row, 'FS', draft?.number);
            (this.kept.listings[key] as { review?: string }).review = 'waiting';
          } else this.refuse(key, verdict);
          return {
            stall_code: key,
            receipt_status: 'in_review',
            reasons: [],
            listing_id: this.kept.listings[key]?.number ?? draft?.number ?? this.number('FS'),
            until,
            verdict,
            ...more,
          };
        });
        return { answers, refused };
      });
    const listing = /^\/listings\/([^/]+)$/.exec(call.path)?.[1];
    if (call.method === 'DELETE' && listing) {
      delete this.kept.listings[decodeURIComponent(listing)];
      delete this.kept.drafts[decodeURIComponent(listing)];
      this.save();
      return { status: 200, body: { deleted: true } };
    }
    const report = /^\/reviews\/([\w-]+)$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(
        report,
        { working: { phase: 'queued' }, done: (results) => ({ phase: 'looked', results }) },
        (answers) =>
          (answers as Looked[]).map(
            ({ stall_code, receipt_status, reasons, listing_id, until, verdict }) => ({
              stall_code,
              listing_id,
              status:
                receipt_status !== 'in_review'
                  ? receipt_status
                  : Date.now() < until
                    ? 'in_review'
                    : verdict.length > 0
                      ? 'rejected'
                      : 'approved',
              reasons: Date.now() < until ? reasons : [...reasons, ...verdict],
            }),
          ),
      );
    return { status: 404, body: { error: 'nothing here' } };
  }
}
