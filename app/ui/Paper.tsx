import { Button } from '@rneui/themed';
import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { DAY } from './theme';

/** Ink on paper. */
export const INK = '#000000';

/** A page for the printer: always in the day's colours; its buttons are on the screen alone. */
export function Paper({ onBack, children }: { onBack: () => void; children: ReactNode }): ReactNode {
  return (
    <ScrollView
      style={{ backgroundColor: '#ffffff' }}
      contentContainerStyle={{ padding: 24, maxWidth: 820, width: '100%', gap: 10 }}
    >
      <div className="screen-only" style={{ display: 'flex', gap: 8 }}>
        <Button title="Print" onPress={() => window.print()} />
        <Button type="outline" title="Back" titleStyle={{ color: DAY.action }} onPress={onBack} />
      </div>
      <style>
        {
          '@media print { .screen-only { display: none !important } @page { size: A4; margin: 12mm } html, body, #root, #root * { overflow: visible !important; } #root, #root > div { height: auto !important; position: static !important } }'
        }
      </style>
      {children}
    </ScrollView>
  );
}
