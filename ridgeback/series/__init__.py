"""What instruments report by themselves: channels, their readings for years, and the ways in: files, HTTP, MQTT."""
