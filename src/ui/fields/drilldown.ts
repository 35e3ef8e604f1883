/** Address of the items behind a figure of a field. */
export const drilldownHref = (
  fieldsPath: string,
  field: string,
  is: 'filled' | 'failing' | 'missing' | 'bad' | 'empty',
): string => `${fieldsPath.replace(/\/fields$/, '/drilldown')}?field=${field}&is=${is}`;
