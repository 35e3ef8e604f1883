/**
 * How the worker is run. It goes through files of any size in small pieces, each of which leaves a few megabytes behind;
 * left alone, the runtime lets them pile up to several times what is in use before it clears them away.
 */
export const workerFlags = ['--heap-growing-percent=30', '--max-semi-space-size=8'];
/**
 * The evaluator holds the catalog and its evaluations; it may take what a machine of today has. An edit makes many listings anew
 * that stay: with little room for what is young they would be copied about again and again.
 */
export const evaluatorFlags = ['--max-old-space-size=8192', '--max-semi-space-size=64'];
export const workerEnv = { MALLOC_ARENA_MAX: '2' };
