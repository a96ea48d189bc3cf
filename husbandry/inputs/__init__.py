"""What turns a plan into the inputs of the climate model and of the light model."""
