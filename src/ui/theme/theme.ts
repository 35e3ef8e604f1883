'use client';
import { Button, createTheme, type MantineColorsTuple } from '@mantine/core';

const plum: MantineColorsTuple = [
  '#f7eff5',
  '#f1e6ef',
  '#e0c5da',
  '#cfa3c4',
  '#b3749f',
  '#934f80',
  '#7d3a6c',
  '#6b2d5c',
  '#58234b',
  '#441a3a',
];

export const theme = createTheme({
  primaryColor: 'plum',
  primaryShade: { light: 7, dark: 3 },
  autoContrast: true,
  colors: { plum },
  fontFamily: 'var(--text)',
  fontFamilyMonospace: 'var(--mono)',
  headings: { fontFamily: 'var(--heading)' },
  defaultRadius: 6,
  fontSizes: { xs: '12px', sm: '13px', md: '13.5px', lg: '15px', xl: '19px' },
  components: {
    Button: Button.extend({
      defaultProps: { size: 'compact-md', radius: 6 },
      styles: { root: { height: 28, paddingInline: 13, fontWeight: 550, fontSize: 13.5 } },
    }),
    TextInput: { defaultProps: { size: 'xs' } },
    NativeSelect: { defaultProps: { size: 'xs' } },
    Textarea: { defaultProps: { size: 'xs' } },
    TimeInput: { defaultProps: { size: 'xs' } },
    Select: { defaultProps: { size: 'xs', comboboxProps: { shadow: 'sm' } } },
    Menu: { defaultProps: { shadow: 'sm' } },
    Popover: { defaultProps: { shadow: 'sm' } },
  },
});
