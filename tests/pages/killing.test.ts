import { createHash } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { type Connection, createConnection, type RowDataPacket } from 'mysql2/promise';
import { startOwnStack } from '../support/ownStack';

/** A stack of its own, whose processes are killed while runs of some thousand rows are under way. */
const rows = 6000;
const kills = Number(process.env.LIVELY_KILLS ?? 12);

/** Whether a process has not ended. */
const isThere = (pid: number): boolean => {
  try {
    return process.kill(pid, 0);
  } catch {
    return false;
  }
};
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

test(`${kills} kill -9 over all processes: everything comes back by itself, and nothing is lost or doubled`, async () => {
  test.setTimeout(1_800_000);
  // However few items there are, their listings are made in threads.
  const inThreads = { LIVELY_COUNTING_THREADS: '2', LIVELY_THREADS_FROM: '1' };
  const stack = await startOwnStack('first', inThreads, { workers: 3, webs: 2, evaluators: 2 });
  const [second = ''] = stack.further;
  let connection: Connection | undefined;
  /** Asks the database, again and again while it is being started. */
  async function ask<T>(query: string, values: unknown[] = []): Promise<T[]> {
    for (let tries = 0; ; tries++)
      try {
        connection ??= await createConnection({
          host: '127.0.0.1',
          port: stack.databasePort,
          user: 'lively',
          password: stack.env.LIVELY_DB_PASSWORD ?? '',
          database: 'lively',
        });
        const [found] = await connection.query<RowDataPacket[]>(query, values);
        return found as unknown as T[];
      } catch (error) {
        connection?.destroy();
        connection = undefined;
        if (tries > 600) throw error;
        await pause(100);
      }
  }
  const upload = async (): Promise<number> => {
    const lines = Array.from(
      { length: rows },
      (_, i) => `K${i},Pot ${i},F${Math.floor(i / 5)},${(i % 90) + 1}.90,${'SMLXY'[i % 5]}`,
    );
    for (let tries = 0; tries < 600; tries++) {
      const answer = await fetch(`${tries % 2 === 0 ? stack.address : second}/api/sources?name=killed.csv`, {
        method: 'POST',
        body: `sku,name,family,price,size\n${lines.join('\n')}\n`,
      }).catch(() => undefined);
      if (answer?.ok) return ((await answer.json()) as { run: number }).run;
      await pause(100);
    }
    throw new Error('the file was never taken');
  };
  /** Begins a stage as the pages do: the run's state and its job, in one transaction, made again where it was cut off. */
  const begin = async (run: number, state: string, job: string) => {
    const payload = JSON.stringify({ run });
    for (;;) {
      const [made] = await ask<{ count: number }>(
        'select count(*) as count from job where kind = ? and payload = ?',
        [job, payload],
      );
      if (Number(made?.count) > 0) return;
      try {
        const held = connection;
        await held?.beginTransaction();
        await held?.query('update run set state = ?, rows_done = 0, error = null where id = ?', [state, run]);
        await held?.query(
          "insert into job (kind, payload, state, attempts, run_at, progress, stop_asked) values (?, ?, 'queued', 0, utc_timestamp(3), 0, 0)",
          [job, payload],
        );
        await held?.commit();
      } catch {
        connection?.destroy();
        connection = undefined;
      }
    }
  };
  const until = async (run: number, state: string) => {
    // While processes are being killed, on a busy machine, work may have to begin anew again and again.
    for (let i = 0; i < 12_000; i++) {
      const [found] = await ask<{ state: string; error: string | null }>(
        'select state, error from run where id = ?',
        [run],
      );
      if (found?.state === state) return;
      if (found?.state === 'failed') throw new Error(found.error ?? 'failed');
      await pause(100);
    }
    throw new Error(`it was never ${state}`);
  };
  /** Everything that makes up the catalog. */
  const catalog = async (): Promise<string> => {
    const items = await ask('select sku, family, own_values, archived from item order by sku');
    const families = await ask('select code, varies_by, own_values from family order by code');
    return createHash('sha256')
      .update(JSON.stringify([items, families]))
      .digest('hex');
  };
  const stages = [
    ['checking', 'checkRun', 'checked'],
    ['applying', 'applyRun', 'done'],
    ['undoing', 'undoRun', 'undone'],
  ] as const;
  const through = async (): Promise<string[]> => {
    const run = await upload();
    const seen: string[] = [];
    for (const [state, job, end] of stages) {
      await begin(run, state, job);
      await until(run, end);
      seen.push(await catalog());
    }
    const [counts] = await ask<{ counts: string }>('select counts from run where id = ?', [run]);
    return [...seen, JSON.stringify(counts)];
  };
  try {
    const empty = await catalog();
    const undisturbed = await through();
    expect(undisturbed[0]).toBe(empty);
    expect(undisturbed[1]).not.toBe(empty);
    expect(undisturbed[2]).toBe(empty);

    const names = [...stack.running.keys()];
    expect(names).toHaveLength(9);
    let killed = 0;
    let over = false;
    const killing = (async () => {
      // Those that hold work are killed twice as often as the others, at moments that have nothing to do with the work.
      const order = [
        'worker',
        'database',
        'evaluator',
        'worker 2',
        'web server',
        'worker 3',
        'database',
        'evaluator 2',
        'simulated channels',
      ];
      for (let i = 0; killed < kills && !over; i++) {
        await pause(100 + ((i * 7919) % 500));
        const name = order[i % order.length] ?? '';
        const pid = stack.running.get(name)?.pid;
        if (!pid) continue;
        process.kill(pid, 'SIGKILL');
        killed++;
        // The next is killed when this one is there again, so that however busy the machine is the work goes on.
        while (stack.running.get(name)?.pid === pid) await pause(50);
        if (name === 'database') await ask('select 1');
      }
    })();
    while (killed < kills) expect(await through()).toEqual(undisturbed);
    over = true;
    await killing;
    expect(await through()).toEqual(undisturbed);
    for (const path of ['/', '/items', '/sources', '/feeds/lanternry-de/checks'])
      for (const address of [stack.address, second]) {
        let status = 0;
        for (let i = 0; i < 300 && status !== 200; i++) {
          status = await fetch(address + path).then(
            (answer) => answer.status,
            () => 0,
          );
          if (status !== 200) await pause(100);
        }
        expect([path, status]).toEqual([path, 200]);
      }
    // Whichever is asked says the same.
    const listed = `/api/items?columns=sku,name,price,family&from=0&count=500&sort=sku&q=K`;
    const answers = await Promise.all(
      [stack.address, second].map(async (address) => (await fetch(address + listed)).json()),
    );
    expect(answers[0]).toEqual(answers[1]);
    const open = await ask<{ count: number }>(
      "select count(*) as count from job where state in ('queued', 'running') and kind like '%Run'",
    );
    expect(Number(open[0]?.count)).toBe(0);

    // While there is no evaluator a page of a feed says so, and comes by itself when there is one again; the others stand.
    let away = true;
    const keepingAway = (async () => {
      while (away) {
        for (const name of ['evaluator', 'evaluator 2']) {
          const pid = stack.running.get(name)?.pid;
          if (pid && isThere(pid)) process.kill(pid, 'SIGKILL');
        }
        await pause(20);
      }
    })();
    const checks = async () => (await fetch(`${stack.address}/feeds/lanternry-de/checks`)).text();
    try {
      expect(await checks()).toContain('The evaluator is restarting');
      expect((await fetch(`${stack.address}/outbox`)).status).toBe(200);
    } finally {
      away = false;
      await keepingAway;
    }
    await expect.poll(checks, { timeout: 30_000 }).toContain('Find an item');
  } finally {
    connection?.destroy();
    await stack.stop();
  }
});
