// Of the server’s tests those that are run on PostgreSQL as well (scripts/postgres.spec.ts says which are not, and why), in
// two files: each file begins with an empty registry, and to load the server anew takes four seconds.
import "../lubrication/grease-job.spec";
import "../lubrication/lubrication.spec";
import "../lubrication/lubrication-files.spec";
import "../lubrication/rounds.spec";
import "../lubrication/rounds-told.spec";
import "../machine/machine-list.spec";
