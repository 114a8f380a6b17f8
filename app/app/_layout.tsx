import { AtkinsonHyperlegibleNext_400Regular } from '@expo-google-fonts/atkinson-hyperlegible-next/400Regular';
import { AtkinsonHyperlegibleNext_700Bold } from '@expo-google-fonts/atkinson-hyperlegible-next/700Bold';
import { BarlowSemiCondensed_500Medium } from '@expo-google-fonts/barlow-semi-condensed/500Medium';
import { BarlowSemiCondensed_600SemiBold } from '@expo-google-fonts/barlow-semi-condensed/600SemiBold';
import { QueryClientProvider } from '@tanstack/react-query';
import { useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import { useEffect, type ReactNode } from 'react';
import { SafeAreaProvider } from 'react-native-safe-area-context';
import { queryClient } from '../api/queries';
import { useSentToCards } from '../outbox/cardDay';
import { keepApp } from '../offline/keepApp';
import { KeysProvider } from '../ui/Keys';
import { LookProvider } from '../ui/Look';
import { Shell } from '../ui/Shell';
import { ToastProvider } from '../ui/Toast';
import { VoiceProvider } from '../ui/Voice';

export default function Layout(): ReactNode {
  const [loaded, failed] = useFonts({
    AtkinsonHyperlegibleNext_400Regular,
    AtkinsonHyperlegibleNext_700Bold,
    BarlowSemiCondensed_500Medium,
    BarlowSemiCondensed_600SemiBold,
  });
  useEffect(() => {
    keepApp();
    // the bench must open without a network: its screens are fetched while there is one, where no service worker keeps them
    void Promise.all([import('./bench'), import('./bench/new'), import('./bench/[id]')]).catch(
      () => undefined,
    );
  }, []);
  // a font that does not come is no reason to show nothing
  if (!loaded && !failed) return null;
  return (
    <SafeAreaProvider>
      <QueryClientProvider client={queryClient}>
        <LookProvider>
          <VoiceProvider>
            <Sending />
            <ToastProvider>
              <KeysProvider>
                <Shell>
                  <Slot />
                </Shell>
              </KeysProvider>
            </ToastProvider>
          </VoiceProvider>
        </LookProvider>
      </QueryClientProvider>
    </SafeAreaProvider>
  );
}

/** What was done at this desk goes on its way, whatever screen is open. */
function Sending(): null {
  useSentToCards();
  return null;
}
