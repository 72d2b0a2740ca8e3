import { bootstrapApplication } from "@angular/platform-browser";
import { App } from "./app/app";
import { appConfig } from "./app/app.config";
import { steadyPresses } from "./app/shared/steady-press";

steadyPresses(document);

bootstrapApplication(App, appConfig).catch((error: unknown) => {
  document.body.textContent = `Iron Patience could not start: ${error instanceof Error ? error.message : String(error)}`;
});
