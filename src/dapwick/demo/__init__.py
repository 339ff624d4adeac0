"""The demo salon: the Net Loft above the harbour on Skerrow. Dogs and photos are simulated."""
