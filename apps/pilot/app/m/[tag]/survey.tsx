export { SurveyPage as default } from '../../../src/pages';
