import { createTheme, type Theme, type ThemeOptions } from '@mui/material/styles';
import type { Look } from './look.js';
import { SIZES, TOKENS, type Tokens } from './tokens.js';

export type Posture = 'desk' | 'dark';

declare module '@mui/material/styles' {
  interface Theme {
    tokens: Tokens;
  }
  interface ThemeOptions {
    tokens: Tokens;
  }
}

const BODY = "'Atkinson Hyperlegible Next Variable', sans-serif";
const CODE = "'Atkinson Hyperlegible Mono Variable', monospace";

export const tokensOf = (posture: Posture, look: Look): Tokens =>
  TOKENS[look.contrast ? (`${posture}Contrast` as const) : posture];

/** MUI's parts in Auk's dress: hairlines and one corner, no shadows, no ripples, labels above their fields, one orange for the act that comes next. */
export function themeOf(posture: Posture, look: Look): Theme {
  const t = tokensOf(posture, look);
  return createTheme({
    tokens: t,
    palette: {
      mode: posture === 'dark' ? 'dark' : 'light',
      primary: { main: t.act, contrastText: t.onAct },
      secondary: { main: t.ink, contrastText: t.ground },
      text: { primary: t.ink, secondary: t.quiet },
      background: { default: t.ground, paper: t.panel },
      error: { main: t.wrong, contrastText: t.onWrong },
      success: { main: t.done, contrastText: t.onDone },
      info: { main: t.info },
      warning: { main: t.risk, contrastText: t.onRisk },
      divider: t.line,
    },
    typography: {
      fontFamily: BODY,
      htmlFontSize: 16,
      body1: { fontSize: SIZES.body, lineHeight: 1.35 },
      body2: { fontSize: SIZES.small, lineHeight: 1.35 },
      button: { textTransform: 'none', fontWeight: 650, fontSize: '0.90625rem', lineHeight: 1.4 },
    },
    shape: { borderRadius: SIZES.corner },
    transitions: look.still ? { create: () => 'none' } : {},
    components: {
      ...buttonsOf(t),
      ...fieldsOf(t),
      ...labelsOf(t),
      ...choicesOf(t),
      ...waysOf(t),
      ...notesOf(t),
      ...tablesOf(t),
    },
  });
}

/** What every sheet of styles may use: the tokens and sizes as custom properties of the page. */
export function variablesOf(posture: Posture, look: Look): Record<string, string> {
  const dashed = (name: string) => name.replace(/[A-Z]/g, c => `-${c.toLowerCase()}`);
  const colours = Object.entries(tokensOf(posture, look)).map(([k, v]) => [`--${dashed(k)}`, v]);
  const sizes = Object.entries(SIZES).map(([k, v]) => [
    k === 'corner' ? '--corner' : `--text-${k}`,
    typeof v === 'number' ? `${v}px` : v,
  ]);
  return { ...Object.fromEntries([...colours, ...sizes]), '--face': BODY, '--mono': CODE };
}

type Parts = NonNullable<ThemeOptions['components']>;

const lineOf = (t: Tokens): string => `1px solid ${t.line}`;
const edgeOf = (t: Tokens): string => `1px solid ${t.edge}`;

/** What is pressed. */
const buttonsOf = (t: Tokens): Parts => ({
  MuiButtonBase: { defaultProps: { disableRipple: true } },
  MuiButton: {
    defaultProps: { disableElevation: true },
    styleOverrides: {
      root: { whiteSpace: 'nowrap', minWidth: 0, padding: '0.3125rem 0.875rem' },
      text: { color: t.actText, padding: '0.25rem 0.5rem' },
      outlined: { color: t.ink, borderColor: t.ink, borderWidth: 1.5 },
      sizeSmall: { padding: '0.125rem 0.5rem', fontSize: SIZES.small, minHeight: '1.5rem' },
    },
    variants: [
      { props: { variant: 'text', color: 'error' }, style: { color: t.wrong } },
      { props: { variant: 'outlined', color: 'error' }, style: { color: t.wrong, borderColor: t.wrong } },
      { props: { variant: 'text', color: 'inherit' }, style: { color: 'inherit' } },
      {
        props: { variant: 'outlined', color: 'inherit' },
        style: { color: 'inherit', borderColor: 'currentcolor' },
      },
    ],
  },
  MuiIconButton: {
    styleOverrides: {
      root: {
        color: t.quiet,
        borderRadius: SIZES.corner,
        padding: '0.125rem',
        minWidth: '1.5rem',
        minHeight: '1.5rem',
        '&:hover': { background: t.soft, color: t.ink },
      },
      sizeSmall: { fontSize: '1rem' },
    },
  },
});

/** What is typed into: the frame is the field’s, its label stands above it. */
function fieldsOf(t: Tokens): Parts {
  const edge = edgeOf(t);
  return {
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiInputBase: {
      styleOverrides: {
        root: { fontSize: SIZES.body, lineHeight: 1.35 },
        input: { '&::placeholder': { color: t.quiet, opacity: 1 } },
      },
    },
    MuiOutlinedInput: {
      defaultProps: { notched: false },
      styleOverrides: {
        root: {
          background: t.panel,
          '& .MuiOutlinedInput-notchedOutline': { border: edge },
          '&:hover .MuiOutlinedInput-notchedOutline': { borderColor: t.ink },
          '&.Mui-focused .MuiOutlinedInput-notchedOutline': { border: `2px solid ${t.focus}` },
          '&.Mui-error .MuiOutlinedInput-notchedOutline': { border: `2px solid ${t.wrong}` },
        },
        input: { height: 'auto', padding: '0.3125rem 0.5rem' },
        notchedOutline: { top: 0, '& legend': { display: 'none' } },
      },
    },
    MuiInput: {
      styleOverrides: {
        root: {
          'label + &': { marginTop: 0 },
          '&::before': { borderBottom: `1px dotted ${t.edge} !important` },
          '&::after': { borderBottom: `2px solid ${t.focus}`, transition: 'none' },
          '&.Mui-focused': { background: t.panel },
        },
        input: { padding: '0.0625rem 0.125rem', height: 'auto', minHeight: '1.375rem' },
      },
    },
  };
}

/** What is written at a field, and what is chosen by it. */
const labelsOf = (t: Tokens): Parts => ({
  MuiInputLabel: {
    defaultProps: { shrink: true },
    styleOverrides: {
      root: {
        position: 'static',
        transform: 'none',
        fontSize: SIZES.fine,
        lineHeight: 1.3,
        marginBottom: '0.125rem',
        color: t.quiet,
        maxWidth: '100%',
        '&.Mui-focused': { color: t.ink },
        '&.Mui-error': { color: t.wrong },
      },
    },
  },
  MuiFormHelperText: {
    styleOverrides: {
      root: { margin: '0.125rem 0 0', fontSize: SIZES.fine, '&.Mui-error': { color: t.wrong } },
    },
  },
  MuiFormControlLabel: {
    styleOverrides: {
      root: { marginLeft: 0, marginRight: 0, gap: '0.375rem' },
      label: { whiteSpace: 'nowrap', fontSize: SIZES.small },
    },
  },
  MuiCheckbox: {
    styleOverrides: { root: { padding: '0.1875rem', color: t.edge, '&.Mui-checked': { color: t.ink } } },
  },
  MuiNativeSelect: {
    styleOverrides: {
      select: {
        '&:focus': { background: 'none', borderRadius: SIZES.corner },
        '& option': { background: t.panel },
      },
      icon: { color: t.quiet, fontSize: '1.125rem' },
    },
  },
});

/** What opens over a page or is chosen from. */
function choicesOf(t: Tokens): Parts {
  const edge = edgeOf(t);
  return {
    MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: 'none' } } },
    MuiDialog: {
      styleOverrides: { paper: { border: `1.5px solid ${t.ink}`, boxShadow: 'none' } },
    },
    MuiDialogTitle: {
      styleOverrides: { root: { fontSize: '1.1875rem', fontWeight: 700, paddingBottom: 4 } },
    },
    MuiPopover: { styleOverrides: { paper: { border: `1px solid ${t.ink}`, boxShadow: 'none' } } },
    MuiMenuItem: { styleOverrides: { root: { fontSize: SIZES.body, minHeight: '2rem' } } },
    MuiAutocomplete: {
      styleOverrides: {
        paper: { border: `1px solid ${t.ink}` },
        listbox: { padding: '0.25rem' },
        option: { borderRadius: SIZES.corner, minHeight: '2rem !important' },
        inputRoot: { padding: '0 !important' },
        input: { padding: '0.3125rem 0.5rem !important' },
      },
    },
    MuiChip: {
      styleOverrides: {
        root: {
          borderRadius: SIZES.corner,
          height: '1.5rem',
          fontSize: SIZES.small,
          background: 'none',
          border: edge,
        },
        deleteIcon: { fontSize: '1rem', color: t.quiet },
      },
    },
  };
}

/** Between views. */
function waysOf(t: Tokens): Parts {
  const line = lineOf(t);
  return {
    MuiTab: {
      styleOverrides: {
        root: {
          minHeight: 0,
          minWidth: 0,
          padding: '0.375rem 0.625rem',
          textTransform: 'none',
          fontSize: SIZES.body,
          fontWeight: 400,
          '&.Mui-selected': { color: t.ink, fontWeight: 700 },
        },
      },
    },
    MuiTabs: {
      styleOverrides: {
        root: { minHeight: 0, borderBottom: line },
        indicator: { height: 3, background: t.act },
      },
    },
  };
}

/** What says something, and waits. */
const notesOf = (t: Tokens): Parts => ({
  MuiAlert: {
    defaultProps: { icon: false, variant: 'standard' },
    styleOverrides: {
      root: {
        background: t.panel,
        color: t.ink,
        border: 0,
        borderLeft: '4px solid',
        borderRadius: 0,
        padding: '0.375rem 0.875rem',
        margin: '0.75rem 0',
        fontSize: SIZES.body,
      },
      message: { padding: '0.25rem 0' },
      action: { padding: 0, margin: '0 0 0 auto', alignItems: 'center' },
    },
    variants: (
      [
        ['error', t.wrong],
        ['success', t.done],
        ['warning', t.risk],
        ['info', t.info],
      ] as const
    ).map(([severity, colour]) => ({ props: { severity }, style: { borderColor: colour } })),
  },
  MuiTooltip: {
    styleOverrides: {
      tooltip: { background: t.ink, color: t.ground, fontSize: SIZES.small, borderRadius: SIZES.corner },
    },
  },
  MuiLinearProgress: {
    styleOverrides: { root: { background: t.line, borderRadius: 3 }, bar: { borderRadius: 3 } },
  },
  MuiSkeleton: { defaultProps: { animation: false }, styleOverrides: { root: { background: t.soft } } },
});

/** Rows. */
function tablesOf(t: Tokens): Parts {
  const line = lineOf(t);
  return {
    MuiTableCell: {
      styleOverrides: {
        root: {
          padding: '0.375rem 0.5rem',
          borderBottom: line,
          verticalAlign: 'baseline',
          fontSize: SIZES.body,
          lineHeight: 1.35,
        },
        head: {
          padding: '0.5rem',
          fontWeight: 600,
          fontSize: SIZES.fine,
          lineHeight: 1.35,
          color: t.quiet,
          borderBottom: `1.5px solid ${t.ink}`,
          whiteSpace: 'nowrap',
        },
      },
    },
  };
}
