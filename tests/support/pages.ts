import { type BrowserContext, test as plain } from '@playwright/test';
import config from '../../playwright.config';

/**
 * A browser test whose pages are those of one person: scripts that were loaded once are not loaded for every test again. Tests
 * about two persons make contexts of their own.
 */
export const test = plain.extend<object, { person: BrowserContext }>({
  person: [
    async ({ browser }, use) => {
      const { viewport = null, locale, baseURL, contextOptions } = config.use ?? {};
      const context = await browser.newContext({
        ...contextOptions,
        viewport,
        ...(locale && { locale }),
        ...(baseURL && { baseURL }),
      });
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: ({ person }, use) => use(person),
  page: async ({ context }, use) => {
    const page = await context.newPage();
    await use(page);
    await page.close();
  },
});
export { type Browser, expect, type Page } from '@playwright/test';
