"""What everything is computed with: runs shared between threads, elementary functions, planes of samples, blending, blur."""
