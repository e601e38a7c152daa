// What is kept and what is not: no room on disk, no storage at all, damaged records, a session that does not start.
import { expect, type Page, test } from '@playwright/test';
import { goTo, order, position, sayBack, ticket, view } from './desk';

const openRecords = (page: Page, work: 'damage a trade' | 'damage the session') =>
  page.evaluate(
    (what) =>
      new Promise<void>((done, fail) => {
        const asked = indexedDB.open('keen-fox');
        asked.onerror = () => fail(asked.error);
        asked.onsuccess = () => {
          const db = asked.result;
          const tx = db.transaction(['trades', 'keep'], 'readwrite');
          if (what === 'damage a trade') tx.objectStore('trades').put({ ref: 'a9.1', symbol: 7 });
          else tx.objectStore('keep').put({ version: 7, seq: 1, now: 1, state: {}, market: {} }, 'session');
          tx.oncomplete = () => {
            db.close();
            done();
          };
        };
      }),
    work,
  );

/** Fills the disk with the next step of the session, or frees it, for the worker that keeps it: a save of the state before would find none either, and the press would be refused. */
async function diskOf(page: Page) {
  const workers = page.workers();
  const has = await Promise.all(workers.map((w) => w.evaluate(() => 'indexedDB' in globalThis)));
  expect(has).toContain(true);
  return (full: boolean) =>
    Promise.all(
      workers.map((w) =>
        w.evaluate((isFull) => {
          const store = IDBObjectStore.prototype as unknown as {
            put: (...x: unknown[]) => unknown;
            real?: unknown;
          };
          store.real ??= store.put;
          const real = store.real as (...x: unknown[]) => unknown;
          let full = false;
          store.put = function (this: IDBObjectStore, ...x) {
            full ||= isFull && this.name === 'entries';
            if (full) throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
            return real.apply(this, x);
          };
        }, full),
      ),
    );
}

test('no room on disk: said, nothing more is taken, and what was pressed is kept once there is room', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(page.getByLabel('Ticket: an order sentence')).toBeVisible();
  const disk = await diskOf(page);
  // Far enough through the ask that it fills wherever the market has gone on a slow machine.
  await ticket(page, 'buy 200 at ask + 10c extended\n stop 30c');
  await disk(true);
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  const bar = page.getByRole('alert').filter({ hasText: 'no room on disk' });
  await expect(bar).toContainText('The market stands still');
  await expect(sayBack(page)).not.toContainText('Done');
  await page
    .getByRole('region', { name: 'Rack' })
    .getByRole('button', { name: /Flatten/ })
    .click();
  await expect(sayBack(page)).toContainText('no room on disk');
  await disk(false);
  await expect(bar).toBeHidden();
  await expect(position(page)).toContainText('long 200 at');
  await page.reload();
  await expect(position(page)).toContainText('long 200 at');
});

test('a browser that keeps nothing: said before anything else, everything works, and nothing claims to be kept', async ({
  page,
}) => {
  // As in a window that is blocked from storage: the worker of the session has none.
  await page.route(/turbopack-worker|worker/, async (route) => {
    const answer = await route.fetch();
    const head = "Object.defineProperty(globalThis, 'indexedDB', { value: undefined });\n";
    await route.fulfill({ response: answer, body: head + (await answer.text()) });
  });
  await page.goto('/desk');
  await expect(page.getByRole('alert').filter({ hasText: 'Nothing is kept' })).toBeVisible();
  await order(page, 'buy 100 at ask + 3c extended\n stop 20c');
  await expect(sayBack(page)).toContainText('(not kept)');
  await expect(position(page)).toContainText('long 100 at');
  await view(page, 'Review');
  await expect(page.getByRole('main')).toContainText('bought 100 VULPN');
  await page.getByRole('button', { name: 'All days' }).click();
  await expect(page.getByRole('main')).toContainText('This browser gives the app no storage');
  await view(page, 'Desk');
  await expect(position(page)).toContainText('long 100 at');
});

test('a damaged record is left out, named, and set aside; a session that cannot be opened is put aside and a new one begins', async ({
  page,
}) => {
  await page.goto('/desk');
  await order(page, 'buy 100 at ask + 3c extended\n stop 20c');
  await expect(position(page)).toContainText('long 100 at');
  await page.keyboard.press('f');
  await expect(position(page)).not.toContainText('long 100');
  await openRecords(page, 'damage a trade');
  await view(page, 'Review');
  const damaged = page.getByRole('region', { name: 'Damaged records' });
  await expect(damaged).toContainText('1 record is damaged and left out');
  await expect(damaged).toContainText('trade a9.1: a record of “trades” has no fitting “source”');
  await damaged.getByRole('button', { name: 'Set it aside' }).click();
  await damaged.getByRole('button', { name: 'Really set it aside' }).click();
  await expect(damaged).toContainText('is set aside');
  await goTo(page, '09:31');
  await openRecords(page, 'damage the session');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'The session stopped' })).toBeVisible();
  await page.getByRole('button', { name: 'Put this session aside and begin a new one' }).click();
  await page.getByRole('button', { name: /^Really: its trades/ }).click();
  await expect(page.getByLabel('Ticket: an order sentence').or(page.getByRole('main'))).toBeVisible();
  await view(page, 'Review');
  await page.getByRole('button', { name: 'Trades', exact: true }).click();
  await expect(page.getByRole('main')).toContainText('VULPN');
});
