// What the stories do at the desk, over and over.
import { expect, type Locator, type Page } from '@playwright/test';

export const clock = (page: Page) => page.getByTestId('clock');
export const sayBack = (page: Page) => page.getByLabel('Say-back');
export const position = (page: Page) => page.getByTestId('position');
export const staged = (page: Page) => page.getByRole('region', { name: 'Staged orders' });
export const view = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name, exact: true }).click();

export async function goTo(page: Page, time: string, shown = `${time}:00`) {
  await page.getByRole('button', { name: 'Go to…' }).click();
  await page.getByRole('textbox', { name: 'Go to' }).fill(time);
  await page.keyboard.press('Enter');
  await expect(clock(page)).toHaveText(shown, { timeout: 180_000 });
}

export async function ticket(page: Page, text: string) {
  await page.getByLabel('Ticket: an order sentence').fill(text);
  await page.getByRole('button', { name: 'Send (Ctrl+Enter)' }).click();
}
export async function order(page: Page, text: string) {
  await ticket(page, text);
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(sayBack(page)).toContainText('Done');
}

/** Takes one of a list that opens. */
export async function pick(field: Locator, name: string) {
  await field.click();
  await field.page().getByRole('option', { name, exact: true }).click();
}

export async function practise(page: Page, title: string, from: string) {
  await page.goto('/days');
  await page.getByRole('button', { name: `Practise: ${title}` }).click();
  await expect(clock(page)).toHaveText(from, { timeout: 180_000 });
}

/** The first day with a few hundred companies instead of thousands: where what is looked at is not the market, nights go by faster. */
export async function smallMarket(page: Page) {
  await page.goto('/setup');
  await expect(clock(page)).toHaveText(/\d:\d/, { timeout: 60_000 });
  // A page of the same origin without a session: nothing writes meanwhile.
  await page.goto('/icon.svg');
  await page.evaluate(async () => {
    const done = <T>(r: IDBRequest<T>) =>
      new Promise<T>((yes, no) => {
        r.onsuccess = () => yes(r.result);
        r.onerror = () => no(r.error);
      });
    const db = await done(indexedDB.open('keen-fox'));
    const tx = db.transaction(['attempts', 'keep', 'entries'], 'readwrite');
    const [attempt] = await done(tx.objectStore('attempts').getAll());
    tx.objectStore('attempts').put({ ...attempt, day: { ...attempt.day, size: 300 } });
    tx.objectStore('keep').delete('session');
    tx.objectStore('keep').delete('heartbeat');
    tx.objectStore('entries').clear();
    await new Promise((yes) => {
      tx.oncomplete = yes;
    });
    db.close();
  });
}
