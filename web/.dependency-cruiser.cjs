module.exports = {
  forbidden: [
    { name: "no-circular", severity: "error", from: {}, to: { circular: true } },
    { name: "ui-and-charts-know-no-features", severity: "error", from: { path: "^src/(ui|charts|lib)/" }, to: { path: "^src/(features|api|app)/" } },
    { name: "lib-stands-alone", severity: "error", from: { path: "^src/lib/" }, to: { path: "^src/(ui|charts)/" } },
    {
      name: "features-through-their-door",
      severity: "error",
      from: { path: "^src/features/([^/]+)/" },
      to: { path: "^src/features/([^/]+)/", pathNot: ["^src/features/$1/", "^src/features/[^/]+/(index|queries)\\.ts$"] },
    },
    { name: "app-through-doors", severity: "error", from: { path: "^src/app/" }, to: { path: "^src/features/[^/]+/", pathNot: "^src/features/[^/]+/(index|queries)\\.ts$" } },
  ],
  options: { tsPreCompilationDeps: true, tsConfig: { fileName: "tsconfig.json" }, exclude: { path: "\\.test\\.(helper\\.)?tsx?$" } },
};
