export { SurveyScreen as default } from '../../../src/features/survey/SurveyScreen';
