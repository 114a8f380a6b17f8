export { NewCardScreen as default } from '../../features/plan/NewCardScreen';
