import { z } from 'zod';

/** How a feed's search words fill themselves. */
export const searchWordsSchema = z
  .strictObject({
    field: z.string().min(1).meta({ description: 'the field they fill: a text, or a list of texts' }),
    never: z
      .array(z.string().min(1).max(100))
      .max(500)
      .default([])
      .meta({ description: "excluded words, such as competitors' names" }),
  })
  .meta({ id: 'SearchWords' });
export type SearchWords = z.infer<typeof searchWordsSchema>;
