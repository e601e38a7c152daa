import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';

const VIEWS = ['scan', 'desk', 'options', 'keys', 'plans', 'review', 'setup', 'days'];

for (const theme of ['Night', 'Dawn']) {
  test(`every view in ${theme}: no accessibility violation, a strict policy, nothing asked from elsewhere`, async ({
    page,
  }) => {
    const foreign: string[] = [];
    page.on(
      'request',
      (r) => !/^(http:\/\/localhost:4310|blob:|data:)/.test(r.url()) && foreign.push(r.url()),
    );
    await page.goto('/setup');
    await page.getByLabel(theme).check();
    for (const name of VIEWS) {
      const response = await page.goto(`/${name}`);
      const policy = response?.headers()['content-security-policy'] ?? '';
      expect(policy).toContain("default-src 'none'");
      expect(policy).not.toMatch(/script-src[^;]*unsafe/);
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme.toLowerCase());
      await expect(page.getByRole('main').getByRole('heading').first()).toBeAttached();
      await expect(page.getByText('being set up')).toHaveCount(0);
      if (name === 'desk') await expect(page.getByTestId('depth')).toBeVisible();
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(
        violations.map((v) => `${name}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`),
      ).toEqual([]);
    }
    expect(foreign).toEqual([]);
  });
}
