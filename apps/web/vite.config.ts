import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

interface Graph {
  getModuleInfo(id: string): { importedIds: readonly string[]; dynamicallyImportedIds: readonly string[] } | null;
}
/** The modules that a page needs, with those that it fetches later or without. */
function modulesOf(graph: Graph, page: string, later: boolean): Set<string> {
  const found = new Set([fileURLToPath(new URL(page, import.meta.url))]);
  for (const id of found) {
    const info = graph.getModuleInfo(id);
    for (const m of info?.importedIds ?? []) found.add(m);
    if (later) for (const m of info?.dynamicallyImportedIds ?? []) found.add(m);
  }
  return found;
}
let both: Set<string> | undefined;
/** The modules that a learner's page begins with and the workbench has too. */
function bothNeed(graph: Graph): ReadonlySet<string> {
  if (both) return both;
  const ofWorkbench = modulesOf(graph, 'index.html', true);
  both = new Set([...modulesOf(graph, 'take.html', false)].filter((id) => ofWorkbench.has(id)));
  return both;
}

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['source', ...defaultClientConditions] },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    sourcemap: true,
    chunkSizeWarningLimit: 700,
    rollupOptions: {
      input: { index: 'index.html', take: 'take.html' },
      // in one piece React is smaller, and both applications have it
      output: {
        codeSplitting: {
          groups: [
            { name: 'react', priority: 2, test: /node_modules\/(?:react|react-dom|scheduler)\// },
            { name: (id, graph) => (bothNeed(graph).has(id) ? 'both' : null), debugName: 'both', priority: 1 },
            // what many parts of the workbench have is one file: a hundred small ones take a browser longer
            { name: 'workbench', minShareCount: 8 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:3000' } },
});
