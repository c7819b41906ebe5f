export { RevisionsScreen as default } from '../../../src/features/revisions/RevisionsScreen';
