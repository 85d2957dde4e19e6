"""Where looks break: kept by version, made when one is proposed and whenever somebody asks."""
