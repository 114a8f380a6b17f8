export { CardsScreen as default } from '../../features/plan/CardsScreen';
