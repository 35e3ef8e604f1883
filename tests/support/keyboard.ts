import type { Page } from '@playwright/test';

/** Presses Tab until what has the focus is called so. @throws where it is never reached */
export async function tabTo(page: Page, name: RegExp, most = 160): Promise<void> {
  for (let i = 0; i < most; i++) {
    const found = await page.evaluate(() => {
      const at = document.activeElement;
      const labelled = at instanceof HTMLInputElement ? at.labels?.[0]?.textContent : undefined;
      return at?.getAttribute('aria-label') ?? labelled ?? at?.textContent ?? '';
    });
    if (name.test(found.replace(/\s+/g, ' ').trim())) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`the keyboard never came to ${name}`);
}
