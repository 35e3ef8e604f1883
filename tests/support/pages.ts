import { type Page, test as plain } from '@playwright/test';
import config from '../../playwright.config';

/**
 * Waits after each loading of a page until its scripts answer: what is pressed on a busy machine before they do, nobody hears.
 * React marks each element that it has taken over with a property of its own.
 */
export function answering(page: Page): Page {
  const answers = () =>
    page.waitForFunction(() => {
      const taken = (element: Element) => Object.keys(element).some((key) => key.startsWith('__reactProps'));
      const pressed = [...document.querySelectorAll('main button, main input, main a')];
      return (
        taken(document.body) &&
        pressed.every((element) => element.closest('.apexcharts-canvas') || taken(element))
      );
    });
  const then =
    <Words extends unknown[], Answer>(load: (...words: Words) => Promise<Answer>) =>
    async (...words: Words) => {
      const answer = await load.apply(page, words);
      await answers();
      return answer;
    };
  return Object.assign(page, {
    goto: then(page.goto),
    reload: then(page.reload),
    goBack: then(page.goBack),
    goForward: then(page.goForward),
  });
}

/**
 * A browser test on the page of one person: scripts that were loaded once are not loaded for every test again, nor is a process
 * begun for each. Tests about two persons make contexts of their own.
 */
export const test = plain.extend<object, { person: Page }>({
  person: [
    async ({ browser }, use) => {
      const { viewport = null, locale, baseURL, contextOptions } = config.use ?? {};
      const context = await browser.newContext({
        ...contextOptions,
        viewport,
        ...(locale && { locale }),
        ...(baseURL && { baseURL }),
      });
      await use(answering(await context.newPage()));
      await context.close();
    },
    { scope: 'worker' },
  ],
  context: ({ person }, use) => use(person.context()),
  page: async ({ person }, use) => {
    const { viewport } = config.use ?? {};
    if (viewport) await person.setViewportSize(viewport);
    await use(person);
    await person.unrouteAll({ behavior: 'ignoreErrors' });
    await person.removeAllListeners('console', { behavior: 'ignoreErrors' });
  },
});
export { type Browser, expect, type Page } from '@playwright/test';
