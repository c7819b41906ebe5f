export { NotFoundScreen as default } from '../src/features/not-found/NotFoundScreen';
