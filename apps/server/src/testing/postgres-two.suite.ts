// Of the server’s tests those that are run on PostgreSQL as well (scripts/postgres.spec.ts says which are not, and why), in
// two files: each file begins with an empty registry, and to load the server anew takes four seconds.
import "../diagnosis/typed-loss.spec";
import "../job/photos.spec";
import "../machine/machines.spec";
import "../measure/hand-tests.spec";
import "../measure/imports.spec";
import "../measure/judged.spec";
import "../measure/runs.spec";
import "../people/again.spec";
import "../people/record.spec";
import "../people/seals.spec";
import "../prove/geometry.spec";
import "../sound/sounds.spec";
import "../stock/parts.spec";
import "../store/store.spec";
import "../sums/kept-sums.spec";
import "./editors.spec";
import "./odd-requests.spec";
