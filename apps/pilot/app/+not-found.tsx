export { LostScreen as default } from '../src/features/not-found/NotFoundScreen';
