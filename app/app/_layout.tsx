import { QueryClientProvider } from '@tanstack/react-query';
import { Slot, usePathname } from 'expo-router';
import type { ReactNode } from 'react';
import { SafeAreaProvider } from 'react-native-safe-area-context';
import { queryClient } from '../api/queries';
import { useSentToCards } from '../outbox/cardDay';
import { useKeepApp } from '../shell/useKeepApp';
import { Running } from '../shell/Running';
import { Who } from '../shell/Who';
import { Guard } from '../ui/Guard';
import { KeysProvider } from '../ui/Keys';
import { LookProvider } from '../ui/Look';
import { shipFonts } from '../ui/fonts';
import { Shell } from '../ui/Shell';
import { ToastProvider } from '../ui/Toast';
import { VoiceProvider } from '../ui/Voice';

shipFonts();

export default function Layout(): ReactNode {
  const path = usePathname();
  useKeepApp(path !== '/');
  return (
    <SafeAreaProvider>
      <QueryClientProvider client={queryClient}>
        <LookProvider>
          <VoiceProvider>
            <Sending />
            <Who>
              <ToastProvider>
                <KeysProvider>
                  <Shell running={<Running />}>
                    <Guard what="This page" again={path}>
                      <Slot />
                    </Guard>
                  </Shell>
                </KeysProvider>
              </ToastProvider>
            </Who>
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
