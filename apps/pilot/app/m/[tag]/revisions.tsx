export { RevisionsScreen as default } from '../../../src/features/settings/RevisionsScreen';
