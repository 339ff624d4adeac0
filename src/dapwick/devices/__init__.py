"""Cameras and callipers: what speaks with outside devices, and simulated stand-ins that ship."""
