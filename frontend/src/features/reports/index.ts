export { Lately } from './Lately';
export { OrderReports } from './OrderReports';
export { StepsEditor } from './StepsEditor';
export { VisitReport } from './VisitReport';
