"""The salon itself: name, kit, settings, backups, passcode, demo."""
