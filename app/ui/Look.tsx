import AsyncStorage from '@react-native-async-storage/async-storage';
import { ThemeProvider } from '@rneui/themed';
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useColorScheme, useWindowDimensions } from 'react-native';
import { DAY, elementsTheme, NIGHT, WIDE, type Palette } from './theme';

export type LookChoice = 'auto' | 'day' | 'night';

interface Look {
  palette: Palette;
  night: boolean;
  choice: LookChoice;
  choose: (choice: LookChoice) => void;
}

const LookContext = createContext<Look | null>(null);
const KEY = 'pace-check.look';

/** Day or night: as the device has it, or as the person chose. */
export function LookProvider({ children }: { children: ReactNode }): ReactNode {
  const scheme = useColorScheme();
  const [choice, setChoice] = useState<LookChoice>('auto');
  useEffect(() => {
    void AsyncStorage.getItem(KEY).then((stored) => {
      if (stored === 'day' || stored === 'night') setChoice(stored);
    });
  }, []);
  const night = choice === 'night' || (choice === 'auto' && scheme === 'dark');
  const look = useMemo<Look>(
    () => ({
      palette: night ? NIGHT : DAY,
      night,
      choice,
      choose: (next) => {
        setChoice(next);
        void AsyncStorage.setItem(KEY, next);
      },
    }),
    [night, choice],
  );
  const theme = useMemo(() => elementsTheme(look.palette, night), [look.palette, night]);
  return (
    <LookContext.Provider value={look}>
      {/* the same one at dusk: another would begin every screen anew, and with it what is typed on it */}
      <ThemeProvider theme={theme}>{children}</ThemeProvider>
    </LookContext.Provider>
  );
}

export function useLook(): Look {
  const look = useContext(LookContext);
  if (!look) throw new Error('useLook needs a LookProvider above it');
  return look;
}

export const usePalette = (): Palette => useLook().palette;

/** Whether there is room for two columns. */
export const useWide = (): boolean => useWindowDimensions().width >= WIDE;
