import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { shopUpdateSchema, type Shop, type ShopUpdate } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Door } from "../data/door";
import { Loaded } from "../data/loaded";
import { Notices } from "../data/notices";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { bySchema, gate } from "../shared/schema-form";
import { Trouble } from "../shared/trouble";
import { May } from "../shared/may";

interface Typed {
  readonly name: string;
  readonly currency: string;
  readonly people: string;
}

const SAID: readonly SaidField<Omit<ShopUpdate, "version">>[] = [
  { label: "Name", value: (s) => s.name },
  { label: "Currency", value: (s) => s.currency },
  { label: "Who works here", value: (s) => s.people.join(", ") },
];

/** The shop’s own name, currency and people. */
@Component({
  selector: "ip-shop-form",
  imports: [May, ButtonDirective, BothVersions, LoadingLines, ReactiveFormsModule, RouterLink, TextField, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shop.message()) {
      <ip-trouble [message]="shop.message()" (again)="shop.again()" />
    } @else if (!shop.value()) {
      <ip-loading>Looking up the shop.</ip-loading>
    }
    <!-- Only once it is known: what is typed before would be lost under it. -->
    @if (shop.value()) {
      <form [formGroup]="form" (ngSubmit)="save()" aria-label="The shop">
        <div class="fields">
          <ip-text-field label="Name" formControlName="name" />
          <ip-text-field label="Currency" formControlName="currency" [most]="3" />
          @if (!signsIn()) {
            <ip-text-field label="Who works here" formControlName="people" placeholder="First names, commas between" />
          }
        </div>
        @if (edit.theirs()) {
          <ip-both-versions
            [message]="edit.message()"
            [rows]="conflicts()"
            (keepMine)="save()"
            (takeTheirs)="takeTheirs()"
          />
        } @else {
          @if (edit.message()) {
            <p class="bad" role="alert">{{ edit.message() }}</p>
          }
          <div class="acts">
            <button *ipMay="'updateShop'" pButton severity="secondary" type="submit" [disabled]="edit.busy()">
              Keep the shop
            </button>
          </div>
        }
      </form>
      <p class="people">
        <a routerLink="/people">People</a>: who signs in, what they may, and their PINs.
        <ng-container *ipMay="'record'"
          ><a routerLink="/record">Record</a>: who changed what. <a routerLink="/server">Server</a>: versions, storage,
          backups.</ng-container
        >
      </p>
    }
  `,
  styles: `
    .people {
      margin-top: var(--space-4);
    }
  `,
})
export class ShopForm {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly maySend = gate();
  private readonly door = inject(Door);
  /** Who works here is then who can sign in. */
  protected readonly signsIn = computed(() => this.door.me()?.door === "people");
  protected readonly form = new FormGroup(
    {
      name: new FormControl("", { nonNullable: true }),
      currency: new FormControl("", { nonNullable: true }),
      people: new FormControl("", { nonNullable: true }),
    },
    { validators: bySchema(shopUpdateSchema.omit({ version: true }), shopOf) },
  );
  protected readonly edit = new VersionedSave<Shop>();
  protected readonly shop = Loaded.now(
    () => this.api.call("shop"),
    (shop) => {
      this.edit.begin(shop);
      this.form.reset({ name: shop.name, currency: shop.currency, people: shop.people.join(", ") });
    },
  );
  protected readonly conflicts = computed(() => {
    const theirs = this.edit.theirs();
    return theirs ? differing(shopOf(this.form.getRawValue()), theirs, SAID) : [];
  });

  protected save(): void {
    if (!this.maySend(this.form)) return;
    const shop = shopOf(this.form.getRawValue());
    this.edit.send(
      (version) => this.api.call("updateShop", { body: { ...shop, version } }),
      (kept) => {
        this.edit.begin(kept);
        this.notices.say("The shop is kept.");
      },
    );
  }

  protected takeTheirs(): void {
    this.edit.leave();
    this.shop.again();
  }
}

function shopOf({ name, currency, people }: Typed): Omit<ShopUpdate, "version"> {
  const names = people
    .split(",")
    .map((p) => p.trim())
    .filter(Boolean);
  return { name, currency: currency.trim().toUpperCase(), people: names };
}
