console.log('{}');
