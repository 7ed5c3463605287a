"""What a build is counted with: inputs with origin and spread, limits, chemistry, sampling, the posterior, the evaluation."""
