<?php

declare(strict_types=1);

use App\Http\Controllers\PerformerController;
use Illuminate\Support\Facades\Route;

Route::view('/', 'hafen');
Route::get('/cue/{key}', [PerformerController::class, 'page'])->where('key', '[0-9a-f]{32}');
