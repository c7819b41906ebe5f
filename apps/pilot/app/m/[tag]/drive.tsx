export { DriveScreen as default } from '../../../src/features/drive/DriveScreen';
