/**
 * Integration tests wait for servers, processes and clocks on a machine that may be busy: what fails once is tried once more.
 * Its first failure is printed, and the end of the run names it (`scripts/test.mjs`).
 */
jest.retryTimes(1, { logErrorsBeforeRetry: true });
