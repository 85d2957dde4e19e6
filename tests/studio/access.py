"""Who may call what: one row for every method and path of the API. A path without a row fails the tests, and so does a row without a path.

everybody: also who is not signed in (others without a session get 401); viewer, designer, curator, admin: from that role on (below it 403);
owner: whose it is, as a designer, and curators (other designers 403); maker: who started it, nobody else is told of it (404)
"""

from __future__ import annotations

ROWS = """
everybody  GET    /api/session
everybody  POST   /api/session
viewer     DELETE /api/session
designer   GET    /api/people
admin      GET    /api/unreadable

viewer     GET    /api/start
viewer     GET    /api/search

viewer     GET    /api/encodings
designer   POST   /api/encodings
designer   POST   /api/encodings/curve
owner      DELETE /api/encodings/{encoding_id}

viewer     GET    /api/pictures
designer   POST   /api/pictures
viewer     POST   /api/pictures/frames
designer   POST   /api/pictures/{pk}/keep
owner      PATCH  /api/pictures/{pk}
owner      DELETE /api/pictures/{pk}
owner      POST   /api/pictures/{pk}/restore
viewer     GET    /api/pictures/{pk}/frame.png
viewer     GET    /api/pictures/{pk}/disc.jpg
designer   GET    /api/pictures/{pk}/file
viewer     GET    /api/footage
designer   POST   /api/footage
designer   GET    /api/footage/folders
designer   GET    /api/footage/folders/{name}
designer   POST   /api/footage/folders/{name}
viewer     GET    /api/footage/{pk}
owner      PATCH  /api/footage/{pk}
designer   POST   /api/footage/{pk}/proxy
viewer     GET    /api/pictures/sets
designer   POST   /api/pictures/sets
owner      DELETE /api/pictures/sets/{pk}

viewer     GET    /api/catalogue/categories
viewer     GET    /api/catalogue/tags
curator    POST   /api/catalogue/tags/rename
designer   POST   /api/catalogue/many
designer   POST   /api/catalogue/many/{number}/undo
viewer     GET    /api/catalogue/{kind}/{pk}
owner      PATCH  /api/catalogue/{kind}/{pk}
owner      DELETE /api/catalogue/{kind}/{pk}
owner      POST   /api/catalogue/{kind}/{pk}/restore
viewer     GET    /api/catalogue/{kind}/{pk}/activity
viewer     GET    /api/catalogue/{kind}/{pk}/uses
viewer     PUT    /api/catalogue/{kind}/{pk}/favourite
viewer     GET    /api/shelf/entries
viewer     GET    /api/shelf/counts
viewer     GET    /api/shelf/entries/{pk}/alike
viewer     GET    /api/shelf/entries/{pk}/preview.jpg
viewer     POST   /api/shelf/frame
viewer     GET    /api/shelf/entries/chosen
designer   POST   /api/shelf/grade

viewer     GET    /api/views
viewer     POST   /api/views
viewer     DELETE /api/views/{pk}
curator    POST   /api/categories
curator    POST   /api/categories/move
curator    POST   /api/categories/remove
curator    GET    /api/duplicates
curator    POST   /api/duplicates/merge
curator    POST   /api/duplicates/apart
designer   GET    /api/bin
viewer     GET    /api/stamp

viewer     GET    /api/projects
designer   POST   /api/projects
viewer     GET    /api/projects/{pk}
owner      PATCH  /api/projects/{pk}
owner      DELETE /api/projects/{pk}
owner      POST   /api/projects/{pk}/restore
owner      POST   /api/projects/{pk}/shots
owner      PATCH  /api/projects/{pk}/shots
owner      POST   /api/projects/{pk}/shots/move
owner      POST   /api/projects/{pk}/shots/out
owner      POST   /api/projects/{pk}/shots/back
designer   POST   /api/projects/{pk}/pattern
owner      PATCH  /api/projects/{pk}/scenes/{scene}
owner      PUT    /api/projects/{pk}/scenes
viewer     GET    /api/projects/{pk}/shots/{shot}
owner      PATCH  /api/projects/{pk}/shots/{shot}
viewer     GET    /api/projects/{pk}/shots/{shot}/activity
viewer     GET    /api/projects/{pk}/shots/{shot}/look
viewer     POST   /api/projects/{pk}/shots/{shot}/frame
viewer     POST   /api/projects/{pk}/shots/{shot}/histograms
viewer     POST   /api/projects/{pk}/shots/{shot}/trace
viewer     POST   /api/projects/{pk}/shots/{shot}/notes
viewer     DELETE /api/projects/{pk}/notes/{note}
designer   POST   /api/projects/{pk}/timeline/look
designer   POST   /api/projects/{pk}/timeline
viewer     GET    /api/projects/{pk}/timeline/read/{job}
viewer     GET    /api/projects/{pk}/misfits
owner      POST   /api/projects/{pk}/misfits
owner      PUT    /api/projects/{pk}/tolerances
viewer     GET    /api/projects/{pk}/shots/{shot}/remedies
viewer     GET    /api/projects/{pk}/shots/{shot}/advice
viewer     POST   /api/projects/{pk}/shots/{shot}/match
designer   POST   /api/projects/{pk}/deliveries/estimate
owner      POST   /api/projects/{pk}/deliveries
viewer     GET    /api/projects/{pk}/deliveries
viewer     GET    /api/projects/{pk}/deliveries/{number}
viewer     GET    /api/projects/{pk}/deliveries/{number}/document.json
viewer     GET    /api/projects/{pk}/deliveries/{number}/shots/{place}/preview.jpg
designer   GET    /api/delivery-choices
designer   POST   /api/delivery-choices
owner      DELETE /api/delivery-choices/{pk}
designer   GET    /api/projects/{pk}/deliveries/{number}/files/{item}
designer   GET    /api/projects/{pk}/deliveries/{number}/all.zip
owner      POST   /api/projects/{pk}/trims
owner      POST   /api/projects/{pk}/trims/copy
owner      PUT    /api/projects/{pk}/layers
owner      PUT    /api/projects/{pk}/shared
owner      POST   /api/projects/{pk}/shared/switch
owner      POST   /api/projects/{pk}/looks
owner      POST   /api/projects/{pk}/looks/off
owner      POST   /api/projects/{pk}/looks/strength
owner      POST   /api/projects/{pk}/looks/newest
owner      POST   /api/projects/{pk}/undo/{number}
viewer     GET    /api/projects/{pk}/shots/{shot}/preview.jpg
viewer     POST   /api/projects/{pk}/previews

viewer     GET    /api/boards
designer   POST   /api/boards
viewer     GET    /api/boards/{pk}
owner      PATCH  /api/boards/{pk}
viewer     PUT    /api/boards/{pk}/verdicts/{entry}
owner      DELETE /api/boards/{pk}
owner      POST   /api/boards/{pk}/restore

viewer     GET    /api/packing/manifest.json
designer   POST   /api/packing/plan
viewer     GET    /api/packing/rights/{kind}/{pk}
designer   POST   /api/packing/back
designer   POST   /api/packing/file
designer   POST   /api/packing

viewer     GET    /api/review/queue
curator    POST   /api/review/publish
viewer     GET    /api/review/{kind}/{pk}
designer   POST   /api/review/{kind}/{pk}/{number}
designer   POST   /api/review/{kind}/{pk}/{number}/pins
designer   POST   /api/review/pins/{pk}/settle
viewer     GET    /api/notices
viewer     POST   /api/notices/seen
viewer     POST   /api/notices/clear

designer   POST   /api/looks
designer   POST   /api/looks/file
viewer     GET    /api/looks/{pk}
owner      PUT    /api/looks/{pk}/draft
owner      POST   /api/looks/{pk}/versions
viewer     GET    /api/looks/{pk}/versions/{number}
designer   POST   /api/looks/{pk}/versions/{number}/branch
viewer     GET    /api/looks/{pk}/history
viewer     POST   /api/looks/{pk}/presence
viewer     GET    /api/looks/{pk}/look.json
designer   GET    /api/looks/{pk}/bundle.zip
viewer     GET    /api/looks/{pk}/fingerprint.png
viewer     GET    /api/looks/step-kinds
viewer     POST   /api/looks/frame
viewer     POST   /api/looks/discs
viewer     POST   /api/looks/fingerprint
viewer     POST   /api/looks/scopes
viewer     POST   /api/looks/pixel
viewer     POST   /api/looks/sketch
viewer     POST   /api/looks/settled-end
viewer     POST   /api/looks/trace
viewer     POST   /api/looks/losses
viewer     POST   /api/looks/neutral
viewer     POST   /api/looks/region
viewer     POST   /api/looks/tries
viewer     POST   /api/looks/overlay
viewer     POST   /api/looks/advice
viewer     POST   /api/looks/differences

viewer     GET    /api/presets
designer   POST   /api/presets
owner      POST   /api/presets/{pk}/versions
viewer     GET    /api/presets/{pk}
viewer     GET    /api/presets/{pk}/fingerprint.png
viewer     GET    /api/presets/recent
designer   POST   /api/presets/recent

designer   POST   /api/luts
viewer     GET    /api/luts/{pk}
owner      PATCH  /api/luts/{pk}
viewer     GET    /api/luts/{pk}/fingerprint.png
viewer     GET    /api/luts/{pk}/health
viewer     POST   /api/luts/{pk}/tool/frame
designer   POST   /api/luts/{pk}/tool
viewer     GET    /api/tools
designer   GET    /api/lut-files/{pk}
designer   POST   /api/lut-files/of/{lut}/zip
designer   POST   /api/packs
maker      GET    /api/packs/{job}
maker      PATCH  /api/packs/{job}/rows/{index}
maker      GET    /api/packs/{job}/rows/{index}/preview.jpg
maker      POST   /api/packs/{job}/keep
viewer     GET    /api/charts/new
designer   POST   /api/charts/read
designer   POST   /api/charts/standin
maker      GET    /api/charts/{job}
designer   POST   /api/pairs
maker      GET    /api/pairs/{job}
maker      POST   /api/results/{job}/keep

viewer     GET    /api/bake/formats
viewer     POST   /api/bake/fidelity
viewer     POST   /api/bake/frame
viewer     GET    /api/bake/looks/{pk}
designer   POST   /api/bake/looks/{pk}

viewer     GET    /api/jobs
maker      GET    /api/jobs/{pk}
maker      POST   /api/jobs/{pk}/cancel
maker      POST   /api/jobs/{pk}/restart
maker      GET    /api/jobs/{pk}/file
"""
# (method, path): who
TABLE = {(method, path): who for who, method, path in (line.split() for line in ROWS.split("\n") if line)}
