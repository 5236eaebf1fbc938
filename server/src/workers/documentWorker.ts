// Checks and changes whole documents: they grow with the project, and may come from anywhere.
import { workOnDocument } from '../projects/documentWork';
import { answering } from './answering';

export default answering(workOnDocument);
