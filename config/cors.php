<?php

declare(strict_types=1);

// No page of another origin reads answers; App\Http\Middleware\OnlyThisMachine lets in the one neighbour there may be.
return ['paths' => []];
