import { create } from 'qrcode';
import { useMemo, type ReactNode } from 'react';
import { View } from 'react-native';
import Svg, { Path, Rect } from 'react-native-svg';

/** White around it, in modules: readers need it to find the code. */
const MARGIN = 4;
const SIZE = 220;

/** A QR code: dark on light in every theme, as readers want it. */
export function QrCode({ text, label }: { text: string; label: string }): ReactNode {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: 'M' });
    const squares = Array.from(modules.data, (dark, i) =>
      dark ? `M${i % modules.size} ${Math.floor(i / modules.size)}h1v1h-1z` : '',
    );
    return { size: modules.size, path: squares.join('') };
  }, [text]);
  const side = size + 2 * MARGIN;
  return (
    <View role="img" aria-label={label} style={{ width: SIZE, height: SIZE }}>
      <Svg width={SIZE} height={SIZE} viewBox={`${-MARGIN} ${-MARGIN} ${side} ${side}`}>
        <Rect x={-MARGIN} y={-MARGIN} width={side} height={side} fill="#fff" />
        <Path d={path} fill="#000" />
      </Svg>
    </View>
  );
}
