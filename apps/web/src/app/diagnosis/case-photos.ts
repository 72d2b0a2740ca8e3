import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import type { FindingId } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Notices } from "../data/notices";
import { AxisContext } from "../machine/axis/axis-context";
import { type Choice, ChoiceField, TextField } from "../shared/fields";
import { PhotoField } from "../shared/photo-field";
import { shrinkPhoto } from "../shared/shrink-photo";
import { symptomGroups } from "./case.view";
import { CaseStore } from "./case-store";

/** A camera’s own files are not larger; they are made smaller before they go out. */
const LARGEST_PHOTO = 25_000_000;

/** Photos of a case, each of something that was noticed. */
@Component({
  selector: "ip-case-photos",
  imports: [ButtonDirective, ChoiceField, PhotoField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    @let file = store.open();
    @if (file) {
      <div class="fields photo">
        <ip-choice-field
          label="The photo shows"
          none="something else"
          [value]="photoFinding()"
          [choices]="symptoms()"
          (chosen)="photoFinding.set($event)"
        />
        <ip-text-field label="Caption" [most]="200" [value]="caption()" (typed)="caption.set($event)" />
        <ip-photo-field (taken)="photo($event)" />
      </div>
      <ul class="photos">
        @for (shot of file.photos; track shot.id) {
          <li>
            <img [src]="'/api/photos/' + shot.id" [alt]="shot.caption || 'Photo of the case'" loading="lazy" />
            <span>{{ shot.caption }}</span>
            <button type="button" pButton text (click)="store.withdrawPhoto(shot.id)">Take off</button>
          </li>
        }
      </ul>
    }
  `,
})
export class CasePhotos {
  private readonly context = inject(AxisContext);
  private readonly notices = inject(Notices);
  protected readonly store = inject(CaseStore);
  protected readonly caption = signal("");
  protected readonly photoFinding = signal<FindingId | "">("");
  protected readonly symptoms = computed<readonly Choice<FindingId>[]>(() => {
    const axis = this.context.axis();
    const groups = axis ? symptomGroups(axis.config) : [];
    return groups.flatMap((group) => group.symptoms.map(({ id, text }) => ({ id, label: text })));
  });

  protected photo(file: File): void {
    if (!["image/jpeg", "image/png"].includes(file.type) || file.size > LARGEST_PHOTO) {
      this.notices.error(new Error(`${file.name} cannot be used: a photo is a JPEG or PNG of at most 25 MB.`));
      return;
    }
    const finding = this.photoFinding() || null;
    const caption = this.caption();
    this.caption.set("");
    void shrinkPhoto(file).then((small) => this.store.addPhoto(small, caption, finding));
  }
}
