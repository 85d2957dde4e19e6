"""What puts the apps together: settings, addresses, the API's one table of errors, sweeping."""
