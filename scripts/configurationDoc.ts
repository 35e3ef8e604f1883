/** Writes what an owner can set, from the schema of the settings. */
import { z } from 'zod';
import { ownerSettings } from '../src/server/runtime/settingsSchema';

const cell = (text: string): string => text.replaceAll('|', '\\|');

/** The document as Markdown. */
export function configurationText(): string {
  const { properties = {} } = z.toJSONSchema(z.object(ownerSettings), { io: 'input' });
  const rows = Object.entries(properties).map(([name, property]) => {
    const {
      description = '',
      default: usual,
      enum: choices,
    } = property as {
      description?: string;
      default?: unknown;
      enum?: readonly string[];
    };
    const values = choices ? ` (${choices.map((one) => `\`${one}\``).join(', ')})` : '';
    return `| \`${name}\` | ${usual === undefined ? '' : `\`${String(usual)}\``} | ${cell(description)}${values} |`;
  });
  return `# Configuration

Settings are variables of the environment of \`npm start\`. Made from \`src/server/runtime/settingsSchema.ts\` by \`npm run schemas\`.
What a merchant sets (name, zone, language, retention) is on the page *Settings*.

| Variable | Default | What it is |
| --- | --- | --- |
${rows.join('\n')}
`;
}
