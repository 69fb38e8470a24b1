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
  return <Outlet />;
}

export function ErrorBoundary() {
  const error = useRouteError();
  if (isRouteErrorResponse(error)) return <TroublePage status={error.status} trouble={error.data} />;
  return <TroublePage status={500} trouble={{ says: "This page could not be shown. Nothing was changed." }} />;
}
