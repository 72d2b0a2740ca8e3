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
  RouteReuseStrategy,
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
import { PageReuse } from "./data/page-reuse";
import { atTheDoor } from "./data/at-the-door";
import { leftBehind } from "./data/left-behind";
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
    { provide: RouteReuseStrategy, useClass: PageReuse },
    provideHttpClient(withInterceptors([leftBehind, atTheDoor, workingAs])),
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
