/** Signs that XML 1.0 does not allow at all, section 2.2. */
const forbidden =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters to take out
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const special = /[&<>"]/;

/** A text without what XML cannot hold. */
export const xmlText = (text: string): string => text.replace(forbidden, '');

/** Text as XML character data or attribute value; what XML cannot hold falls out. */
export function escapeXml(text: string): string {
  const clean = xmlText(text);
  if (!special.test(clean)) return clean;
  return clean.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}
