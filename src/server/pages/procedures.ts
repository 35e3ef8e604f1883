/** Every module with procedures: an evaluator loads it to know them all. */
import '../catalog/attributes';
import '../catalog/families';
import '../catalog/itemEdits';
import '../items/items';
import '../suppliers/suppliers';
import '../pictures/duplicates';
import '../items/valueViews';
import '../evaluation/expectations';
import '../evaluation/sheetReview';
import '../channels/sheets';
import './importEffect';
import './stages';
import './workbook';
import '../fixes/applying';
import '../submissions/channelSearch';
import '../submissions/planning/planned';
import '../submissions/planning/restoring';
