import { createTheme, type MantineColorsTuple } from '@mantine/core';

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

/** Greys with a little sand in them, so that fields and borders belong to the paper. */
const gray: MantineColorsTuple = [
  '#f7f5ee',
  '#eeebe0',
  '#e2decf',
  '#d3cfbf',
  '#bab6a6',
  '#969385',
  '#716f64',
  '#55544c',
  '#3b3b36',
  '#262723',
];
/** The same for the night, with a little sea in them. */
const dark: MantineColorsTuple = [
  '#dde5e1',
  '#b4c1c0',
  '#93a4a6',
  '#5c7074',
  '#3d5055',
  '#2d3d42',
  '#1c2a2f',
  '#152125',
  '#0f181b',
  '#0a1113',
];

/** The look of Orvant, by the names of components: none is fetched for its defaults.
 * square corners, no shadows, one sea green, three typefaces. Colours of meaning stand in tokens.css. */
export const theme = createTheme({
  colors: { sea, gray, dark },
  primaryColor: 'sea',
  primaryShade: { light: 8, dark: 6 },
  autoContrast: true,
  luminanceThreshold: 0.2,
  fontFamily: 'var(--sans)',
  fontFamilyMonospace: 'var(--mono)',
  headings: { fontFamily: 'var(--serif)', fontWeight: '500' },
  defaultRadius: 2,
  respectReducedMotion: true,
  fontSizes: { xs: '12.5px', sm: '14px', md: '14.5px', lg: '17px', xl: '21px' },
  components: {
    Button: { defaultProps: { size: 'xs', variant: 'default' } },
    TextInput: { defaultProps: { size: 'xs' } },
    Textarea: { defaultProps: { size: 'xs' } },
    NumberInput: { defaultProps: { size: 'xs' } },
    PasswordInput: { defaultProps: { size: 'xs' } },
    NativeSelect: { defaultProps: { size: 'xs' } },
    Checkbox: { defaultProps: { size: 'xs' } },
    SegmentedControl: { defaultProps: { size: 'xs' } },
    Popover: { defaultProps: { shadow: 'none' } },
    // A list that opens by itself covers the boxes below: these wait until something is typed.
    Autocomplete: { defaultProps: { size: 'xs', openOnFocus: false, comboboxProps: { shadow: 'none' } } },
    TagsInput: { defaultProps: { size: 'xs', openOnFocus: false, comboboxProps: { shadow: 'none' } } },
    MultiSelect: { defaultProps: { size: 'xs', comboboxProps: { shadow: 'none' } } },
    Select: { defaultProps: { size: 'xs', comboboxProps: { shadow: 'none' }, checkIconPosition: 'right' } },
    Modal: { defaultProps: { shadow: 'none' } },
  },
});
