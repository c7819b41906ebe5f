export { WriteScreen as default } from '../../../src/features/write/WriteScreen';
