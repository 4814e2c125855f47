"""A bridge from devices to the browser: lines by TCP or serial port in, a WebSocket out. It knows nothing of what they say."""
