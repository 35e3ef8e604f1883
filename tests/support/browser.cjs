/** What Mantine asks of a browser and jsdom has not: only where a test runs in jsdom. */
if (typeof window !== 'undefined') {
  window.matchMedia ??= (query) => ({
    matches: false,
    media: query,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  });
  window.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
}
