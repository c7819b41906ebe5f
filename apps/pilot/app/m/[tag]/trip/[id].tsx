export { CasePage as default } from '../../../../src/features/trip/pages';
