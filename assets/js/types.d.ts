/** What stands around our modules in a browser. */
interface Window {
  Alpine: { data(name: string, component: (...given: any[]) => object): void };
}

/** What Alpine gives every component. */
interface Magic {
  $root: HTMLElement & { elements?: any };
  $refs: Record<string, any>;
  $nextTick: (then: () => void) => void;
}
