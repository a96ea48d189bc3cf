"""The rules of keeping reptiles and amphibians, and their computation: no interface, no clock, no I/O but its own data."""
