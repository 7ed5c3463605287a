"""Geometry in mm: how parts sit, and the shapes that drawings and findings share."""
