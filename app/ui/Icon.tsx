import Activity from 'lucide-react-native/icons/activity';
import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import BatteryCharging from 'lucide-react-native/icons/battery-charging';
import Check from 'lucide-react-native/icons/check';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import CircleAlert from 'lucide-react-native/icons/circle-alert';
import CircleQuestionMark from 'lucide-react-native/icons/circle-question-mark';
import Clipboard from 'lucide-react-native/icons/clipboard';
import Clock from 'lucide-react-native/icons/clock';
import Delete from 'lucide-react-native/icons/delete';
import Columns2 from 'lucide-react-native/icons/columns-2';
import FilePlus from 'lucide-react-native/icons/file-plus';
import Film from 'lucide-react-native/icons/film';
import Info from 'lucide-react-native/icons/info';
import List from 'lucide-react-native/icons/list';
import Loader from 'lucide-react-native/icons/loader';
import Menu from 'lucide-react-native/icons/menu';
import Moon from 'lucide-react-native/icons/moon';
import OctagonX from 'lucide-react-native/icons/octagon-x';
import Pencil from 'lucide-react-native/icons/pencil';
import Pause from 'lucide-react-native/icons/pause';
import Search from 'lucide-react-native/icons/search';
import SlidersVertical from 'lucide-react-native/icons/sliders-vertical';
import Smartphone from 'lucide-react-native/icons/smartphone';
import Sun from 'lucide-react-native/icons/sun';
import TriangleAlert from 'lucide-react-native/icons/triangle-alert';
import Upload from 'lucide-react-native/icons/upload';
import Watch from 'lucide-react-native/icons/watch';
import X from 'lucide-react-native/icons/x';
import Zap from 'lucide-react-native/icons/zap';
import type { ReactNode } from 'react';
import { View } from 'react-native';

/** The icons that the app draws, each taken by itself: the whole family is a megabyte. */
const ICONS = {
  activity: Activity,
  alert: CircleAlert,
  back: ArrowLeft,
  charging: BatteryCharging,
  check: Check,
  clipboard: Clipboard,
  clock: Clock,
  compare: Columns2,
  delete: Delete,
  file: FilePlus,
  film: Film,
  grip: Menu,
  help: CircleQuestionMark,
  info: Info,
  less: ChevronUp,
  list: List,
  loader: Loader,
  moon: Moon,
  next: ChevronRight,
  note: Pencil,
  pause: Pause,
  phone: Smartphone,
  search: Search,
  settings: SlidersVertical,
  stop: OctagonX,
  sun: Sun,
  upload: Upload,
  warning: TriangleAlert,
  watch: Watch,
  x: X,
  zap: Zap,
};
export type IconName = keyof typeof ICONS;

/** A picture beside words, or in the place of some that its surroundings say: silent for screen readers. */
export function Icon({ name, size, color }: { name: IconName; size: number; color: string }): ReactNode {
  const Drawn = ICONS[name];
  return (
    <View aria-hidden>
      <Drawn size={size} color={color} strokeWidth={1.75} />
    </View>
  );
}
