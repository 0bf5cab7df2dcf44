<!DOCTYPE html>
<html lang="en">
    <head>
        <meta charset="utf-8">
        <meta name="viewport" content="width=device-width, initial-scale=1">
        <meta name="referrer" content="no-referrer">
        <title>Headphones</title>
        <link rel="icon" href="/mark.svg" type="image/svg+xml">
        <script src="/look.js"></script>
        @vite(['resources/css/hafen.css', 'resources/js/performer.ts'])
    </head>
    <body>
        <div id="performer"></div>
    </body>
</html>
