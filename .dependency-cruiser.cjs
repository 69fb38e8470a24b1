/** Imports only point down: app → server → exchange → core. */
const down = (from, to, why) => ({
  name: `${from}-imports-down`.replace(/[^a-z-]/g, ""),
  comment: why,
  severity: "error",
  from: { path: `^${from}/` },
  to: { path: `^(${to})/` },
});
const outside =
  "react|react-dom|react-router|express|better-sqlite3|nodemailer|pdfkit|fontkit|@node-rs|radix-ui|@tanstack";

module.exports = {
  forbidden: [
    down("core", "exchange|server|app|demo|bench|tests", "core imports nothing of ours"),
    down("exchange", "server|app|demo|bench|tests", "formats know the core only"),
    down("server", "app|demo|bench|tests", "the server knows no pages"),
    down("app/ui", "server|exchange|app/routes|app/web", "interface parts know no server"),
    {
      name: "core-is-pure",
      severity: "error",
      from: { path: "^core/", pathNot: "\\.test\\.ts$" },
      to: { path: `(^node:|node_modules/(${outside})/|^(fs|path|crypto|http)$)` },
    },
    {
      name: "no-sql-in-app",
      comment: "what a screen shows is one file in server/queries",
      severity: "error",
      from: { path: "^app/" },
      to: { path: "^server/db/open\\.ts$", dependencyTypesNot: ["type-only"] },
    },
    { name: "no-circles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "no-orphans",
      severity: "error",
      from: {
        orphan: true,
        pathNot: "(\\.test\\.tsx?$|\\.d\\.ts$|config|^tests/|^bench/|^demo/|^bin/|^\\.|routes\\.ts$|entry\\.)",
      },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
    exclude: { path: "(\\.react-router|^build/)" },
  },
};
