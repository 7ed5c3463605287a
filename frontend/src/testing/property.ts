import fc from 'fast-check';

// The same examples in every run.
fc.configureGlobal({ seed: 7 });

export default fc;
