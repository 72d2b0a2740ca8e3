import { ChangeDetectionStrategy, Component } from "@angular/core";

/** How a tablet comes to trust a server whose certificate was made for the shop. */
@Component({
  selector: "ip-trust",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>Trust this server</h1>
      <p>
        Its certificate was made for this shop, and no device knows it yet. Once a device trusts the shop’s authority it
        no longer warns, records through its microphone, and keeps what waits for the server.
      </p>
      <ol>
        <li>
          <a href="/authority.crt" download>Fetch the shop’s authority</a> on the device. Let it go where the device
          warns that it cannot tell who this is: the next step tells.
        </li>
        <li>
          Compare its SHA-256 fingerprint with the one on the server’s console. Where they differ, stop: somebody stands
          between the device and the server.
        </li>
        <li>Have the device trust it, for websites:</li>
      </ol>
      <dl>
        <dt>iPad, iPhone</dt>
        <dd>
          Settings, Profile Downloaded, Install. Then Settings, General, About, Certificate Trust Settings: switch it on
          there.
        </dd>
        <dt>Android</dt>
        <dd>Settings, Security, Encryption and credentials, Install a certificate, CA certificate.</dd>
        <dt>Windows</dt>
        <dd>Open the file, Install Certificate, Local Machine, into Trusted Root Certification Authorities.</dd>
        <dt>Mac</dt>
        <dd>Open the file, add it to System, then open it there: Trust, Always Trust.</dd>
        <dt>Linux, Firefox anywhere</dt>
        <dd>In the browser’s own settings: Certificates, Authorities, Import, for websites.</dd>
      </dl>
      <p>
        Then load this page anew. The names of settings change from year to year; the device’s own help has today’s.
      </p>
    </main>
  `,
  styles: `
    p,
    ol,
    dd {
      max-width: 720px;
    }
    dt {
      font-weight: 700;
    }
    dd {
      margin: 0 0 var(--space-3);
    }
  `,
})
export class TrustPage {}
