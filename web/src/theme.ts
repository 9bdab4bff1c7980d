import { createTheme } from '@mui/material/styles';

const BODY = "'Atkinson Hyperlegible Next Variable', sans-serif";

const common = {
  typography: {
    fontFamily: BODY,
    fontSize: 15,
    button: { textTransform: 'none' as const, fontWeight: 650, fontSize: 14.5 },
  },
  shape: { borderRadius: 6 },
  components: {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: { root: { borderWidth: 1.5, whiteSpace: 'nowrap' as const } },
    },
    MuiTextField: { defaultProps: { size: 'small' as const } },
  },
};

/** The desk: chalk page, ink text, one burnt orange for the act that comes next. */
export const deskTheme = createTheme({
  ...common,
  palette: {
    primary: { main: '#B9481B' },
    text: { primary: '#17212B', secondary: '#46545F' },
    background: { default: '#FAF9F5', paper: '#FFFFFF' },
    error: { main: '#A3262A' },
    success: { main: '#1F6F5C' },
    info: { main: '#27608B' },
    warning: { main: '#8A5A00' },
  },
});

/** Bench and floor: dark ground, ink on the orange. */
export const benchTheme = createTheme({
  ...common,
  palette: {
    mode: 'dark',
    primary: { main: '#E2632B', contrastText: '#10181F' },
    background: { default: '#10181F', paper: '#1A2631' },
    text: { primary: '#FAF9F5', secondary: '#A9B4BB' },
  },
});
