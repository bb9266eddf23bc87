"""Where long work runs: deliveries, workers, the watch over them."""
