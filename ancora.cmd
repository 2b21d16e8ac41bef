@echo off
rem Builds and starts Ancora on Windows. Tests, bench and pictures need a shell: use ./ancora there.
setlocal
cd /d "%~dp0"
set "run=app\target\run"
set "jar=%run%\ancora-app-0.1.0.jar"
set "command=%~1"
set "rest="
if "%command%"=="" goto usage
shift
:words
if "%~1"=="" goto choose
set "rest=%rest% "%~1""
shift
goto words

:choose
set "main="
set "first=%command%"
if "%command%"=="demo" set "main=ancora.app.StartCommand"
if "%command%"=="run" set "main=ancora.app.StartCommand"
if "%command%"=="replay" set "main=ancora.app.journal.ReplayCommand" & set "first="
if "%command%"=="tempo" set "main=ancora.app.tempo.TempoCommand" & set "first="
if "%command%"=="doctor" set "main=ancora.app.store.DoctorCommand" & set "first="
if "%command%"=="backup" set "main=ancora.app.store.BackupCommand"
if "%command%"=="restore" set "main=ancora.app.store.BackupCommand"
if "%command%"=="export" set "main=ancora.app.files.FilesCommand"
if "%command%"=="import" set "main=ancora.app.files.FilesCommand"
if "%command%"=="build" set "main=build"
if not defined main goto usage
for %%p in (java mvn node npm) do (
  where %%p >nul 2>nul || (
    echo Ancora needs %%p: install it ^(a JDK of 17 or later, Maven, Node.js of 18 or later^), then try again. 1>&2
    exit /b 1
  )
)
if not exist "%jar%" goto build
if not "%command%"=="build" goto start
:build
echo building: about a minute, the first time some more, as what it needs is fetched ...
call mvn --batch-mode --no-transfer-progress --quiet -pl core,app -am package -DskipTests -Dmaven.test.skip=true || exit /b 1
java -Djarmode=tools -jar "app\target\ancora-app-0.1.0.jar" extract --force --destination "%run%" >nul || exit /b 1
if "%command%"=="build" exit /b 0
:start
java -Xmx256m -XX:+UseSerialGC -XX:TieredStopAtLevel=1 -XX:+ExitOnOutOfMemoryError -cp "%jar%" %main% %first% %rest%
if %errorlevel%==3 if "%main%"=="ancora.app.StartCommand" (
  echo Ancora had too little memory, and starts again. 1>&2
  goto start
)
exit /b %errorlevel%

:usage
echo usage: ancora demo^|run [--port=N] [--data=FOLDER] [--listen[=N]] [--plain] [--open]
echo        ancora build     build anew, where a source has changed
echo        ancora replay^|tempo^|export^|import^|backup^|restore^|doctor ...
exit /b 2
