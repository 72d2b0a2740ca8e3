import { inject, Pipe, type PipeTransform } from "@angular/core";
import type { OperationName } from "@iron/contract";
import { Api, type Address } from "./api";

/**
 * Where an operation is, for a link or a file: its path is the contract’s.
 * @example [href]="'exportRun' | address: { params: { id } }"
 */
@Pipe({ name: "address" })
export class AddressPipe implements PipeTransform {
  private readonly api = inject(Api);

  transform<N extends OperationName>(name: N, parts: Address<N>): string {
    return this.api.address(name, parts);
  }
}
