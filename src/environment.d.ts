declare namespace NodeJS {
  interface ProcessEnv {
    /** `yes` when a build is to let tests and benchmarks read what the editor holds. */
    NEXT_PUBLIC_TEST_HOOKS?: string;
  }
}

declare module 'plotly.js-cartesian-dist-min' {
  export * from 'plotly.js';
}
