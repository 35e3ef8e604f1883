import { joinedSizes, sidesNamed } from './joinedSizes';

test.each<[string, string[] | undefined]>([
  ['LxBxH', ['depth', 'width', 'height']],
  ['Mått LxBxH (cm)', ['depth', 'width', 'height']],
  ['Maße (B x H x T)', ['width', 'height', 'depth']],
  ['W × D × H', ['width', 'depth', 'height']],
  ['Dim. (L x l x H)', ['depth', 'width', 'height']],
  ['Dimensioni L*P*H', ['width', 'depth', 'height']],
  ['Wymiary (dł x szer)', undefined],
  ['Size', undefined],
  ['L x L x H', undefined],
  ['H x H x B', undefined],
  ['Max. x', undefined],
])('the sides that “%s” names', (heading, sides) => {
  expect(sidesNamed(heading)).toEqual(sides);
});

describe('three numbers in one cell', () => {
  const places = (heading: string, cells: string[]) => {
    const found = joinedSizes(heading, cells);
    return (
      found &&
      Object.fromEntries(
        Object.entries(found).map(([side, [, take, measure]]) => [
          side,
          `${take && 'from' in take ? take.from : ''} ${measure && 'unit' in measure ? `${measure.unit} ${measure.decimalSign}` : ''}`,
        ]),
      )
    );
  };

  test('are told apart by the heading, in the unit that heading or cells say', () => {
    expect(places('LxBxH (cm)', ['14x15x13', '18,5x18x17'])).toEqual({
      depth: '1 cm ,',
      width: '2 cm ,',
      height: '3 cm ,',
    });
    expect(places('B x H x T', ['140 × 150 × 130 mm', '20 × 20 × 20 mm', ''])).toEqual({
      width: '1 mm .',
      height: '2 mm .',
      depth: '3 mm .',
    });
  });

  test.each<[string, string, string[]]>([
    ['no unit', 'LxBxH', ['14x15x13']],
    ['two units', 'LxBxH', ['14x15x13 cm', '1x1x1 m']],
    ['two signs between them', 'LxBxH (cm)', ['14x15x13', '14*15*13']],
    ['two decimal signs', 'LxBxH (cm)', ['14,5x15x13', '14.5x15x13']],
    ['two numbers only', 'LxBxH (cm)', ['14x15']],
    ['words', 'LxBxH (cm)', ['14x15x13', 'various']],
    ['nothing', 'LxBxH (cm)', ['', ' ']],
    ['an order that nobody says', 'Size (cm)', ['14x15x13']],
  ])('are left alone with %s', (_why, heading, cells) => {
    expect(joinedSizes(heading, cells)).toBeUndefined();
  });
});
