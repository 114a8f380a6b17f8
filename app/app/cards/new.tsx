export { NewCardScreen as default } from '../../features/cards/NewCardScreen';
