"""A LUT taken apart into steps that can be edited"""
