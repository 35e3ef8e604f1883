/** Everything that makes questions: an evaluator loads it to know them all. */
import '../catalog/attributes';
import '../catalog/families';
import '../catalog/itemEdits';
import '../catalog/items';
import '../catalog/partners';
import '../catalog/pictures';
import '../catalog/valueViews';
import '../channels/review';
import '../channels/sheets';
import '../feeds/importEffect';
import '../feeds/stagePages';
import '../feeds/workbook';
import '../submissions/submissions';
