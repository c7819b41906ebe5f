export { ProtectionScreen as default } from '../../../src/features/protection/ProtectionScreen';
