"""Photo files to arrays, edges and findings: the only place that knows pixels."""
