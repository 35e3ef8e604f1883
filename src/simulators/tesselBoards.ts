import { type Answer, type Call, one, type Problem, type Row, readTable, Service, type World } from './kit';

/** The simulated picture boards Tessel Boards: an account first, one card a minute, pages that describe themselves. */
export class TesselBoards extends Service {
  constructor(world: World) {
    super('tessel-boards', 'Tessel Boards', world, { count: 1, minutes: 1 });
    if (Object.keys(this.kept.merchant).length === 0) this.kept.merchant.account = 'quillmoss-boards';
  }

  private judge(row: Row): Problem[] {
    const text = (name: string) => one(row, name);
    const problems: Problem[] = [];
    const say = (code: string, field: string, words: string) => problems.push({ code, field, text: words });
    if (text('caption') === '' || [...text('caption')].length > 100) say('T-CAP', 'caption', 'caption 1-100');
    if (text('theme') === '') say('T-BOARD', 'theme', 'no board');
    if (!/^https:\/\/\S+$/.test(text('lead_picture'))) say('T-PIC', 'lead_picture', 'picture not loaded');
    const page = this.world.page(text('leads_to'));
    if (!page) say('T-PAGE', 'leads_to', 'page not found');
    else {
      if (!/property="og:title"/.test(page.html) || !/property="og:image"/.test(page.html))
        say('T-OG', 'leads_to', 'no Open Graph');
      if (!/"@type":\s*"Product"/.test(page.html)) say('T-LD', 'leads_to', 'no Product on page');
    }
    return problems;
  }

  answer(call: Call): Answer | Promise<Answer> {
    if (call.method === 'POST' && call.path === '/account') {
      this.kept.merchant.account = call.body.toString('utf8').trim();
      this.save();
      return { status: 200, body: { connected: this.kept.merchant.account !== '' } };
    }
    const { account = '' } = this.kept.merchant;
    if (account === '' || call.header('authorization') !== `Bearer ${account}`)
      return { status: 401, body: { error: 'Connect an account first.' } };
    if (call.method === 'POST' && call.path === '/cards')
      return this.once(call, () => {
        let refused = 0;
        const answers = readTable(call.body.toString('utf8'), ',').map((row) => {
          const key = one(row, 'card_key');
          const problems = this.judge(row);
          if (problems.length === 0)
            return { key, status: 'pinned', card: this.hold(key, row, 'TB'), why: [] };
          refused++;
          this.refuse(key, problems);
          return { key, status: 'declined', why: problems };
        });
        return { answers, refused };
      });
    const card = /^\/cards\/([^/]+)$/.exec(call.path)?.[1];
    if (call.method === 'DELETE' && card) {
      const key = decodeURIComponent(card);
      if (!this.kept.listings[key]) return { status: 200, body: { removed: false } };
      delete this.kept.listings[key];
      this.save();
      return { status: 200, body: { removed: true } };
    }
    const report = /^\/cards\/report\/([\w-]+)$/.exec(call.path)?.[1];
    if (call.method === 'GET' && report)
      return this.report(report, { working: { state: 'pinning' }, done: (cards) => ({ cards }) });
    return { status: 404, body: { error: 'nothing here' } };
  }
}
