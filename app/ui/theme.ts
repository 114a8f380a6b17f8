import { createTheme } from '@rneui/themed';

/** Colours by what they mean. Both themes are checked for WCAG 2.2 AA in theme.test.ts. */
export interface Palette {
  paper: string;
  sheet: string;
  ink: string;
  quiet: string;
  line: string;
  track: string;
  action: string;
  onAction: string;
  pace: string;
  drain: string;
  /** From cool to too hot to hold. */
  warmth: [string, string, string, string, string];
}

export const DAY: Palette = {
  paper: '#e9edef',
  sheet: '#f7f9fa',
  ink: '#182025',
  quiet: '#4b5961',
  line: '#c3ccd1',
  track: '#d9dfe3',
  action: '#a8430f',
  onAction: '#ffffff',
  pace: '#1f6685',
  drain: '#6b4aa0',
  warmth: ['#7d898f', '#8e7a70', '#a0654c', '#9c3f26', '#6f1d10'],
};

export const NIGHT: Palette = {
  paper: '#10171b',
  sheet: '#182126',
  ink: '#e8edef',
  quiet: '#a7b4bb',
  line: '#35434b',
  track: '#27333a',
  action: '#f09058',
  onAction: '#1b1005',
  pace: '#63b3d6',
  drain: '#b49be6',
  warmth: ['#87949b', '#a8938a', '#c9876c', '#e06c4c', '#ff8f73'],
};

export const FONTS = {
  text: 'AtkinsonHyperlegibleNext_400Regular',
  textStrong: 'AtkinsonHyperlegibleNext_700Bold',
  head: 'BarlowSemiCondensed_600SemiBold',
  figure: 'BarlowSemiCondensed_500Medium',
};

/** From this width on there is room for two columns and a rail. */
export const WIDE = 900;
/** Smallest side of anything that is tapped. */
export const TARGET = 44;

/** The theme of React Native Elements in our colours and type. */
export function elementsTheme(palette: Palette, night: boolean): ReturnType<typeof createTheme> {
  const colors = {
    primary: palette.action,
    background: palette.paper,
    white: palette.sheet,
    black: palette.ink,
    grey0: palette.ink,
    grey1: palette.quiet,
    grey2: palette.quiet,
    grey3: palette.quiet,
    grey4: palette.line,
    grey5: palette.track,
    divider: palette.line,
    error: palette.action,
  };
  return createTheme({
    mode: night ? 'dark' : 'light',
    lightColors: colors,
    darkColors: colors,
    components: {
      Button: ({ type = 'solid' }) => ({
        buttonStyle: { minHeight: TARGET, borderRadius: 6, paddingHorizontal: 16 },
        titleStyle: {
          fontFamily: FONTS.head,
          fontSize: 17,
          color: type === 'solid' ? palette.onAction : palette.action,
        },
        disabledStyle: type === 'solid' ? { backgroundColor: palette.track } : {},
        disabledTitleStyle: { color: palette.quiet },
      }),
      Input: {
        // the frame of the focus goes around all of the field, not only its text
        inputStyle: {
          fontFamily: FONTS.text,
          fontSize: 16,
          color: palette.ink,
          minHeight: TARGET,
          paddingHorizontal: 10,
        },
        labelStyle: {
          fontFamily: FONTS.head,
          fontSize: 15,
          fontWeight: 'normal',
          color: palette.quiet,
          marginBottom: 4,
        },
        errorStyle: { fontFamily: FONTS.text, fontSize: 14, color: palette.action, margin: 2 },
        containerStyle: { paddingHorizontal: 0 },
        inputContainerStyle: {
          borderWidth: 1,
          borderBottomWidth: 1,
          borderColor: palette.quiet,
          borderRadius: 6,
          overflow: 'hidden',
          backgroundColor: palette.sheet,
        },
      },
      LinearProgress: { style: { height: 8, borderRadius: 4 } },
    },
  });
}
