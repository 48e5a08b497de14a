import { Button, createTheme, type MantineColorsTuple, Modal, Select, TextInput } from '@mantine/core';

const sea: MantineColorsTuple = [
  '#eaf4f2',
  '#d3e5e2',
  '#a8cbc7',
  '#7bb0ac',
  '#559995',
  '#3b8b87',
  '#2a7a78',
  '#1d686a',
  '#14565d',
  '#0b444c',
];

/** The look of Orvant: square corners, no shadows, one sea green, three typefaces. Colours of meaning stand in tokens.css. */
export const theme = createTheme({
  colors: { sea },
  primaryColor: 'sea',
  primaryShade: { light: 8, dark: 4 },
  fontFamily: 'var(--sans)',
  fontFamilyMonospace: 'var(--mono)',
  headings: { fontFamily: 'var(--serif)', fontWeight: '500' },
  defaultRadius: 2,
  fontSizes: { xs: '12.5px', sm: '14px', md: '14.5px', lg: '17px', xl: '21px' },
  components: {
    Button: Button.extend({ defaultProps: { size: 'xs', variant: 'default' } }),
    TextInput: TextInput.extend({ defaultProps: { size: 'xs' } }),
    Select: Select.extend({
      defaultProps: { size: 'xs', comboboxProps: { shadow: 'none' }, checkIconPosition: 'right' },
    }),
    Modal: Modal.extend({ defaultProps: { shadow: 'none' } }),
  },
});
