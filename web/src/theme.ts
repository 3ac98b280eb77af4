import { createTheme, type Theme } from '@mui/material/styles';

// Copper and verdigris. Copper is what you act on, verdigris what is proved;
// no colour says anything that a shape or a word does not say too.
export type Mode = 'light' | 'dark' | 'sun';

export interface Inks {
  paper: string;
  sheet: string;
  wash: string;
  rule: string;
  rule2: string;
  ink: string;
  ink2: string;
  copper: string;
  onCopper: string;
  verdigris: string;
  ochre: string;
  brick: string;
}

export const inks: Record<Mode, Inks> = {
  light: {
    paper: '#F5F0E6',
    sheet: '#FFFDF8',
    wash: '#EFE7D8',
    rule: '#DCD4C4',
    rule2: '#8F8672',
    ink: '#16211E',
    ink2: '#4A5853',
    copper: '#A34B17',
    onCopper: '#FFFDF8',
    verdigris: '#1C6B5E',
    ochre: '#855B00',
    brick: '#A3271C',
  },
  dark: {
    paper: '#121816',
    sheet: '#1A2320',
    wash: '#24302C',
    rule: '#33413C',
    rule2: '#7C8B85',
    ink: '#EDE7DB',
    ink2: '#B9C2BC',
    copper: '#E58E57',
    onCopper: '#121816',
    verdigris: '#66C2B0',
    ochre: '#E3B550',
    brick: '#F28274',
  },
  sun: {
    paper: '#FFFFFF',
    sheet: '#FFFFFF',
    wash: '#F1EFEA',
    rule: '#777777',
    rule2: '#333333',
    ink: '#000000',
    ink2: '#1C1C1C',
    copper: '#7A3107',
    onCopper: '#FFFFFF',
    verdigris: '#00483C',
    ochre: '#5C3F00',
    brick: '#7E0F06',
  },
};

/** The mode that somebody chose; light where what was kept of it is none. */
export const modeOf = (kept: string | null): Mode => (kept && Object.hasOwn(inks, kept) ? (kept as Mode) : 'light');

export function themeOf(mode: Mode): Theme {
  const c = inks[mode];
  const size = mode === 'sun' ? 17 : 14.5;
  const line = `1px solid ${c.rule2}`;
  return createTheme({
    palette: {
      mode: mode === 'dark' ? 'dark' : 'light',
      primary: { main: c.copper, contrastText: c.onCopper },
      success: { main: c.verdigris },
      warning: { main: c.ochre },
      error: { main: c.brick },
      text: { primary: c.ink, secondary: c.ink2, disabled: c.ink2 },
      background: { default: c.paper, paper: c.sheet },
      divider: c.rule,
    },
    shape: { borderRadius: 0 },
    typography: {
      fontFamily: '"IBM Plex Sans Variable", sans-serif',
      fontSize: size,
      htmlFontSize: 16,
      button: { textTransform: 'none', fontWeight: 600 },
    },
    transitions: { create: () => 'none' },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          ':root': Object.fromEntries(Object.entries(c).map(([k, v]) => [`--${k}`, v])),
          html: { colorScheme: mode === 'dark' ? 'dark' : 'light' },
          'input[type=radio], input[type=checkbox]': { accentColor: c.copper },
          body: { fontVariantNumeric: 'tabular-nums', fontSize: size },
          'a, button, input, select, textarea, [tabindex]': { '&:focus-visible': { outline: `2px solid ${c.copper}`, outlineOffset: 2 } },
          a: { color: c.copper },
          '@media (max-width:700px)': {
            'button, select, a.target, input:not([type=checkbox]):not([type=radio]), tbody input[type=checkbox], tbody button': {
              minHeight: '44px !important',
            },
            'tbody input[type=checkbox], tbody button': { minWidth: '44px !important' },
          },
          '@page': { size: 'A4 landscape', margin: '10mm' },
          '@media print': { '.no-print': { display: 'none !important' }, body: { background: '#fff', fontSize: '9.5pt' } },
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, variant: 'outlined', size: 'small' },
        styleOverrides: {
          root: { minHeight: 32, '@media (max-width:700px)': { minHeight: 44 }, '&.Mui-disabled': { color: c.ink2, borderColor: c.rule } },
          contained: { '&.Mui-disabled': { color: c.ink2, background: c.wash } },
          outlined: { borderColor: c.copper },
        },
      },
      MuiDialog: {
        defaultProps: { slotProps: { paper: { elevation: 0 } } },
        styleOverrides: { paper: { border: `1px solid ${c.ink}`, backgroundImage: 'none' } },
      },
      MuiInputBase: {
        styleOverrides: {
          root: { fontSize: size, '@media (max-width:700px)': { minHeight: 44 } },
          input: { paddingTop: 3, paddingBottom: 3 },
        },
      },
      MuiInput: { styleOverrides: { underline: { '&:before': { borderBottom: line } } } },
      MuiInputLabel: { defaultProps: { shrink: true }, styleOverrides: { root: { color: c.ink2, fontSize: size * 1.05 } } },
      MuiFormControlLabel: { styleOverrides: { label: { fontSize: size } } },
      MuiFormHelperText: { styleOverrides: { root: { fontSize: size * 0.82, marginTop: 1 } } },
      MuiTextField: { defaultProps: { variant: 'standard', size: 'small', fullWidth: true } },
    },
  });
}
