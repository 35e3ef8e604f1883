/** A stage of a feed: what stands in the line above its pages. */
interface FeedStage {
  readonly key: string;
  readonly label: string;
  /** Whether its page is made before somebody asks for it, since it takes long over a large catalog. */
  readonly prewarmed: boolean;
}

/**
 * The stages of a feed in their order. A new one is an entry here, its view model in `server/stages/` with its figure in
 * `server/stages/steps.ts`, its page, and its test; search, prewarming and the line of stages follow.
 */
export const feedStages = [
  { key: 'fields', label: 'Fields', prewarmed: true },
  { key: 'categories', label: 'Categories', prewarmed: true },
  { key: 'families', label: 'Families', prewarmed: false },
  { key: 'titles', label: 'Titles', prewarmed: true },
  { key: 'rules', label: 'Rules', prewarmed: true },
  { key: 'checks', label: 'Checks', prewarmed: true },
  { key: 'send', label: 'Send', prewarmed: true },
] as const satisfies readonly FeedStage[];

export type StageKey = (typeof feedStages)[number]['key'];
