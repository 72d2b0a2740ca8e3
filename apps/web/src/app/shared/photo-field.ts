import { ChangeDetectionStrategy, Component, input, output } from "@angular/core";

let made = 0;

/** A photo from a file or a phone’s camera; those that wait for the server are counted beside it. */
@Component({
  selector: "ip-photo-field",
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ of() ? "Photo of " + of() + ", JPEG or PNG" : "Photo, JPEG or PNG" }}</label>
    <input
      class="p-inputtext"
      type="file"
      accept="image/jpeg,image/png"
      [id]="id"
      (change)="take($any($event.target))"
    />
    <span class="said"></span>
    @if (waiting(); as waiting) {
      <span role="status"
        >{{ waiting === 1 ? "A photo waits" : waiting + " photos wait" }} in this browser till the server answers.</span
      >
    }
    @if (refused()) {
      <span class="wrong" role="alert">{{ refused() }}</span>
    }
  `,
})
export class PhotoField {
  /** What it shall show, where that is not plain. */
  readonly of = input("");
  /** Photos kept in this browser till the server has them. */
  readonly waiting = input(0);
  /** Why the last one was not taken, in words. */
  readonly refused = input("");
  readonly taken = output<File>();
  protected readonly id = `photo-${(made += 1)}`;

  protected take(field: HTMLInputElement): void {
    const file = field.files?.[0];
    if (file) this.taken.emit(file);
    // The same file can be chosen again.
    field.value = "";
  }
}
