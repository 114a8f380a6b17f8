import { lazyScreen } from '../shell/lazyScreen';

export default lazyScreen((screens) => screens.TypedScreen);
