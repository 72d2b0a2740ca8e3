import { provideHttpClient, withInterceptors } from "@angular/common/http";
import {
  CSP_NONCE,
  ErrorHandler,
  inject,
  provideBrowserGlobalErrorListeners,
  type ApplicationConfig,
  provideEnvironmentInitializer,
} from "@angular/core";
import {
  provideRouter,
  withComponentInputBinding,
  withInMemoryScrolling,
  withNavigationErrorHandler,
  withRouterConfig,
} from "@angular/router";
import { MessageService } from "primeng/api";
import { PrimeNG, providePrimeNG } from "primeng/config";
import { routes } from "./app.routes";
import { notArrived } from "./data/arrival";
import { PageFailure } from "./data/page-failure";
import { atTheDoor } from "./data/at-the-door";
import { workingAs } from "./data/working-as";
import { ironPreset } from "./theme/preset";

export const appConfig: ApplicationConfig = {
  providers: [
    provideRouter(
      routes,
      withComponentInputBinding(),
      withInMemoryScrolling({ scrollPositionRestoration: "top" }),
      withNavigationErrorHandler(notArrived),
      withRouterConfig({ resolveNavigationPromiseOnError: true }),
    ),
    provideHttpClient(withInterceptors([atTheDoor, workingAs])),
    providePrimeNG({
      theme: {
        preset: ironPreset,
        options: { darkModeSelector: '[data-shift="night"]' },
      },
    }),
    provideEnvironmentInitializer(() => inject(PrimeNG).csp.set({ nonce: inject(CSP_NONCE) ?? undefined })),
    MessageService,
    provideBrowserGlobalErrorListeners(),
    { provide: ErrorHandler, useClass: PageFailure },
  ],
};
