"""What is written about channels, devices, instruments' checks, notices and files of readings."""
