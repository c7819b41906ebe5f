export { GuardsScreen as default } from '../../../src/features/guards/GuardsScreen';
