export { PresetsScreen as default } from '../../../src/features/presets/PresetsScreen';
