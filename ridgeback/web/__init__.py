"""What every page uses: reading what was typed, form fields, addresses, downloads."""
