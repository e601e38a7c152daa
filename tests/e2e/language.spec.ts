import { expect, type Page, test } from '@playwright/test';
import { staged, view } from './desk';

const focus = (page: Page) => page.getByTestId('focus-symbol');
const sayBack = (page: Page) => page.getByLabel('Say-back');
const position = (page: Page) => page.getByTestId('position');
const shortlist = (page: Page) => page.getByRole('region', { name: 'Shortlist' });

/** Replaces the ticket’s sentence. */
async function ticket(page: Page, text: string) {
  await page.getByRole('textbox', { name: 'Ticket: an order sentence' }).press('Control+a');
  await page.keyboard.insertText(text);
}
const elsewhere = (page: Page) => page.getByRole('heading', { name: 'Depth' }).click();

test('a key meant for one symbol never sends for another, however fast the focus changes', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(focus(page)).toHaveText('VULPN');
  await expect(shortlist(page).getByRole('button', { name: /BRYXT/ })).toBeVisible();
  for (let turn = 0; turn < 6; turn++) {
    const [from, to] = turn % 2 === 0 ? ['VULPN', 'BRYXT'] : ['BRYXT', 'VULPN'];
    await expect(focus(page)).toHaveText(from);
    // The key, the other symbol and the yes follow one another without waiting for any answer.
    await page.evaluate(
      ([symbol, first]) => {
        const press = (code: string) =>
          window.dispatchEvent(new KeyboardEvent('keydown', { code, key: code, bubbles: true }));
        const click = () =>
          [...document.querySelectorAll<HTMLButtonElement>('[aria-label="Shortlist"] button')]
            .find((b) => b.textContent?.includes(symbol as string))
            ?.click();
        if (first === 'key') press('KeyQ');
        click();
        if (first !== 'key') press('KeyQ');
        press('Enter');
      },
      [to, turn < 3 ? 'key' : 'click'],
    );
    await expect(focus(page)).toHaveText(to);
    await page.keyboard.press('Enter');
    const text = await sayBack(page).innerText();
    if (text.includes('Send (Enter)')) expect(text).toContain(`of ${to} `);
    await page.keyboard.press('Escape');
    await expect(position(page)).toHaveText(`flat in ${to}`);
  }
});

test('what waits for a yes shows its numbers as they are, and which are fixed when it is sent', async ({
  page,
}) => {
  await page.goto('/desk');
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(page.getByTestId('clock')).toHaveText('09:30:00');
  await elsewhere(page);
  await page.keyboard.press('q');
  await expect(sayBack(page)).toContainText(/[\d.]+ = usual through/);
  await expect(sayBack(page)).toContainText('as of now, fixed when sent');
  const price = async () => /at ([\d.]+) extended/.exec(await sayBack(page).innerText())?.[1];
  const before = await price();
  await page.getByRole('button', { name: 'Run at 20 times' }).click();
  await expect.poll(price).not.toBe(before);
  await page.getByRole('button', { name: 'Pause' }).click();
  await elsewhere(page);
  await page.keyboard.press('Enter');
  await expect(sayBack(page)).toContainText('Done');
  await expect(position(page)).toContainText('long');
  // Out, and the other way round, by one key each: two lines, the second one after the first.
  await ticket(page, 'flatten\nshort 100 at 5c through extended\n  stop 40c');
  await page.keyboard.press('Control+Enter');
  await expect(sayBack(page)).toContainText('if the lines before it go as expected');
  await elsewhere(page);
  await page.keyboard.press('Enter');
  await expect(position(page)).toContainText('short 100 at');
  await ticket(page, 'reverse');
  await page.keyboard.press('Control+Enter');
  await elsewhere(page);
  await page.keyboard.press('Enter');
  await expect(position(page)).toContainText('long 100 at');
});

test('orders are staged for several symbols, nudged, sent and dropped from one list; they are there after a reload', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(focus(page)).toHaveText('VULPN');
  await ticket(page, 'stage buy 200 at last - 20c extended\n  stop 20c');
  await page.keyboard.press('Control+Enter');
  await expect(staged(page)).toContainText('1 staged');
  await shortlist(page).getByRole('button', { name: /BRYXT/ }).click();
  await expect(focus(page)).toHaveText('BRYXT');
  await ticket(page, 'stage buy 100 at bid - 9c extended\n  stop 20c');
  await page.keyboard.press('Control+Enter');
  await expect(staged(page)).toContainText('2 staged');
  await ticket(page, 'move last order up 2c\nmove last order size up 50');
  await page.keyboard.press('Control+Enter');
  await expect(sayBack(page)).toContainText('staged for BRYXT');
  await page.reload();
  await expect(staged(page)).toContainText(/BRYXT\s*buy 150 at [\d.]+\s*0:00/);
  await staged(page)
    .getByRole('button', { name: /^Send BRYXT: buy 150 of BRYXT at bid - 9c \+ 2c extended/ })
    .click();
  await expect(position(page)).toHaveText('buy waits');
  // Each has a key of its own, over every view.
  await view(page, 'Plans');
  await page.getByRole('heading', { name: 'Exit plans' }).click();
  await page.keyboard.press('Control+Alt+Digit1');
  await expect(sayBack(page)).toContainText(/Done.*buy 200 of VULPN at/s);
  await expect(staged(page)).toBeHidden();
});

test('what is typed while the editor is still on its way is kept, and goes', async ({ page }) => {
  await page.goto('/desk');
  for (let k = 1; k <= 5; k++) {
    await page.reload();
    await ticket(page, `stage buy ${100 + k} at last - 20c extended`);
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('textbox', { name: 'Ticket: an order sentence' })).toHaveText(
      `stage buy ${100 + k} at last - 20c extended`,
    );
    await expect(staged(page)).toContainText(`${k} staged`);
  }
});

test('the ticket completes with live values; what it leaves to the desk is done: extended hours, focus, a level', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(focus(page)).toHaveText('VULPN');
  const box = page.getByRole('textbox', { name: 'Ticket: an order sentence' });
  await box.click();
  await expect(page.getByTestId('script-editor')).toBeVisible();
  await box.press('Control+a');
  await page.keyboard.type('alert at premarket h');
  await page.getByRole('option', { name: /^high/ }).click();
  await expect(box).toHaveText('alert at premarket high');
  await box.press('Control+a');
  await page.keyboard.type('buy 100 at pre');
  await expect(page.getByRole('option', { name: /premarket high/ })).toContainText(/VULPN \d+\.\d\d/);
  await page.keyboard.press('Escape');
  const extended = page.getByRole('button', { name: 'extended', exact: true });
  await expect(extended).toHaveAttribute('aria-pressed', 'true');
  await ticket(page, 'toggle extended');
  await page.keyboard.press('Control+Enter');
  await expect(extended).toHaveAttribute('aria-pressed', 'false');
  await ticket(page, 'level "lid" at last + 9c\nalert at level "lid"\nfocus next');
  await page.keyboard.press('Control+Enter');
  await expect(sayBack(page)).toContainText(/level "lid" at [\d.]+.*alert of VULPN at [\d.]+/s);
  await expect(focus(page)).not.toHaveText('VULPN');
});

test('the reference page: every form with an example that is tried in the focus, found by what others call it, put among the scripts', async ({
  page,
}) => {
  await page.goto('/keys');
  await page.getByRole('link', { name: 'All words of the language' }).click();
  await expect(page).toHaveURL(/keys\/reference$/);
  const forms = page.getByRole('region', { name: 'Forms' }).getByRole('button');
  const tried = page.getByLabel('What it would do now');
  const count = await forms.count();
  expect(count).toBeGreaterThan(90);
  // Every one of them is read in the unit tests; here a sample.
  for (let k = 0; k < count; k += 5) {
    await forms.nth(k).click();
    // It goes, or says in a sentence why it cannot; it is never a mistake.
    await expect(tried.locator('p').first()).toBeVisible();
    await expect(tried).not.toContainText('is not known here');
  }
  await page.getByRole('searchbox', { name: 'Look for a word' }).fill('take profit');
  await expect(forms).toHaveCount(1);
  await forms.first().click();
  await expect(page.getByTestId('example')).toContainText('target 2R for half');
  await page.getByRole('button', { name: 'Put this on a key' }).click();
  await page.getByRole('link', { name: 'To the scripts', exact: true }).click();
  await expect(page.getByRole('button', { name: /target 2R for half/ })).toBeVisible();
});

test('scripts of an earlier version are shown with their new words, and written anew for one yes', async ({
  page,
}) => {
  await page.goto('/keys');
  await expect(page.getByRole('region', { name: 'Scripts' })).toContainText('Buy 1R');
  await page.getByRole('button', { name: 'New script' }).click();
  await page.getByLabel('Name').fill('Old one');
  await expect(page.locator('html')).toHaveAttribute('data-choices', 'kept');
  // As an earlier version left it: no word of a version, and a symbol after the price.
  await page.evaluate(async () => {
    const [name] = (await indexedDB.databases())
      .map((d) => d.name ?? '')
      .filter((n) => !n.endsWith('-settings'));
    const done = <T>(r: IDBRequest<T>) =>
      new Promise<T>((yes, no) => {
        r.onsuccess = () => yes(r.result);
        r.onerror = () => no(r.error);
      });
    const db = await done(indexedDB.open(name as string));
    const settings = db.transaction('settings', 'readwrite').objectStore('settings');
    const kept = await done(settings.get('settings'));
    for (const s of kept.scripts)
      if (s.name === 'Old one')
        Object.assign(s, { language: undefined, text: 'alert at premarket high of BRYXT' });
    await done(settings.put(kept, 'settings'));
    db.close();
  });
  await page.reload();
  const earlier = page.getByRole('region', { name: 'Earlier forms' });
  await expect(earlier.getByRole('listitem')).toHaveCount(1);
  await expect(earlier).toContainText('alert of BRYXT at premarket high');
  await earlier.getByRole('button', { name: 'Write them anew' }).click();
  await expect(earlier).toBeHidden();
  await page.getByRole('button', { name: /Old one/ }).click();
  await expect(page.getByText('alert of BRYXT at premarket high').first()).toBeVisible();
  await expect(page.locator('html')).toHaveAttribute('data-choices', 'kept');
  await page.reload();
  await expect(page.getByRole('region', { name: 'Scripts' })).toContainText('Old one');
  await expect(earlier).toBeHidden();
});

test('what a text means is asked once: the answer goes, and is written into the ticket, and in the key editor into the key', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(focus(page)).toHaveText('VULPN');
  const box = page.getByRole('textbox', { name: 'Ticket: an order sentence' });
  await ticket(page, 'buy 100 at 5.20 extended  # low\n  stop $4.90');
  await page.keyboard.press('Control+Enter');
  await expect(sayBack(page)).toContainText('$4.90 away from 5.20, or at the price 4.90?');
  await page.getByRole('button', { name: 'stop at 4.90' }).click();
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await page.getByRole('button', { name: 'Write this into the ticket' }).click();
  await expect(box).toHaveText('buy 100 at 5.20 extended  # low  stop at 4.90');
  await expect(page.getByRole('button', { name: 'Write this into' })).toHaveCount(0);
  // A key that would send its order to sleep at 09:10.
  await view(page, 'Keys');
  await page.getByRole('button', { name: 'New script' }).click();
  const text = page.getByRole('textbox', { name: 'Script', exact: true });
  await text.press('ControlOrMeta+a');
  await page.keyboard.insertText('buy 100 at 5.20');
  const now = page.getByLabel('What it would do now');
  await expect(now).toContainText('this sleeps until 09:30');
  await now.getByRole('button', { name: 'at next open' }).click();
  await expect(text).toHaveText('buy 100 at 5.20 at next open');
  await expect(now).not.toContainText('It asks');
});
