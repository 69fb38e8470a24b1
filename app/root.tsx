import { type ReactNode, useEffect } from "react";
import {
  isRouteErrorResponse,
  Links,
  type LinksFunction,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useLocation,
  useRouteError,
} from "react-router";
import stylesheet from "./app.css?url";
import { replayEarly } from "./ui/early";
import { TroublePage } from "./ui/trouble";

export const links: LinksFunction = () => [
  { rel: "stylesheet", href: stylesheet },
  { rel: "icon", href: "/mark.svg", type: "image/svg+xml" },
];

export const meta = () => [{ title: "Wharf Tally" }];

export function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" data-night="yes">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <Meta />
        <Links />
        {/* Hears what is done before the page does; a file of ours, so that it needs no permission of its own. */}
        <script src="/early.js" />
      </head>
      <body>
        {children}
        <ScrollRestoration />
        <Scripts />
      </body>
    </html>
  );
}

export default function Root() {
  const { pathname } = useLocation();
  // From here on this page hears keys and clicks; until the first does, the key hints stay dim.
  useEffect(() => {
    document.documentElement.dataset.live = pathname;
  }, [pathname]);
  useEffect(replayEarly, []);
  return <Outlet />;
}

export function ErrorBoundary() {
  const error = useRouteError();
  if (isRouteErrorResponse(error)) return <TroublePage status={error.status} trouble={error.data} />;
  return <TroublePage status={500} trouble={{ says: "This page could not be shown. Nothing was changed." }} />;
}
